import PostalMime from 'postal-mime'

/** A mail as somebody reads it. */
export interface ReadMail {
  id: string
  at: number
  from: string
  to: string
  subject: string
  text: string
  html: string
  headers: { name: string; value: string }[]
  attachments: { name: string; content: Blob }[]
  source: string
  isReport: boolean
  bytes: Uint8Array<ArrayBuffer>
}

/** @param bytes in base64 */
export async function readMail({ id, at, bytes }: { id: string; at: number; bytes: string }): Promise<ReadMail> {
  const raw = Uint8Array.from(atob(bytes), (letter) => letter.charCodeAt(0))
  const mail = await PostalMime.parse(raw)
  return {
    id,
    at,
    from: mail.from === undefined ? '' : `${mail.from.name} <${mail.from.address}>`,
    to: mail.to?.map(({ address }) => address).join(', ') ?? '',
    subject: mail.subject ?? '',
    text: mail.text ?? '',
    html: mail.html ?? '',
    headers: mail.headers.map(({ key, value }) => ({ name: key, value })),
    attachments: mail.attachments.map(({ filename, mimeType, content }) => ({
      name: filename ?? 'a part without a name',
      content: new Blob([content as BlobPart], { type: mimeType }),
    })),
    source: new TextDecoder().decode(raw),
    isReport: mail.headers.some(({ key, value }) => key === 'content-type' && value.includes('delivery-status')),
    bytes: raw,
  }
}
