import { createHash } from 'node:crypto'
import PostalMime from 'postal-mime'
import type { OnItsWay, ReceivedMail } from '#core/proof'
import { fetchPage, OutsideProblem } from '../outside'
import { mailOf } from '../mail/queued'
import type { StandInMailbox } from '../mail'
import type { Queue } from '../work'
import type { Settings } from '../settings'
import type { Rehearsal } from './rehearsals'

export interface RehearsalMailParts {
  queue: Queue
  /** Where made-up people's mail arrives; null where it is kept by the rehearsal. */
  mailbox(): Promise<StandInMailbox | null>
}

/** Mail to a made-up person, oldest first, and mail still queued. */
export async function mailsTo(
  rehearsal: Rehearsal,
  email: string,
  { queue, mailbox }: RehearsalMailParts,
): Promise<{ received: ReceivedMail[]; queued: OnItsWay[] }> {
  const address = email.trim().toLowerCase()
  const mails = (await rehearsal.space.mails()).filter(({ to }) => to === address)
  const boxed = ((await mailbox())?.mails(address) ?? []).reverse()
  const received = await Promise.all([
    ...[...mails, ...boxed].map(({ at, bytes }) => readMail(Buffer.from(bytes, 'base64'), at)),
  ])
  const queued = (await queue.ofSpace(rehearsal.code))
    .map(mailOf)
    .filter(({ compared }) => compared === address)
    .map(({ kind, state, said }) => ({ kind, state, said }))
  return { received, queued }
}

/** Reads a mail with a parser of its own; nothing here knows how it was written. */
export async function readMail(bytes: Uint8Array, at: number): Promise<ReceivedMail> {
  const mail = await PostalMime.parse(bytes)
  return {
    at,
    from: { name: mail.from?.name ?? '', address: mail.from?.address ?? '' },
    subject: mail.subject ?? '',
    text: mail.text ?? '',
    html: mail.html ?? '',
    headers: Object.fromEntries(mail.headers.map(({ key, value }) => [key.toLowerCase(), value])),
    attachments: mail.attachments.map(({ filename, content }) => {
      const body = typeof content === 'string' ? Buffer.from(content) : Buffer.from(content as ArrayBuffer)
      return { name: filename ?? '', size: body.length, sha256: createHash('sha256').update(body).digest('hex') }
    }),
    source: Buffer.from(bytes).toString('utf8').slice(0, 4_000),
  }
}

/** Downloads a gift link, counting and hashing the stream; for a redirect, checks its target. */
export async function download(address: string, { publicUrl, standIns }: Settings) {
  if (!address.startsWith(`${publicUrl}/gift/`)) throw new OutsideProblem('This is no link to a gift.')
  let answer: Response
  try {
    const ask = (method: 'GET' | 'POST') =>
      fetch(address, { method, redirect: 'manual', signal: AbortSignal.timeout(LONGEST_DOWNLOAD_MS) })
    answer = await ask('GET')
    // Where the link works so many times, it leads to a page with one button.
    if (answer.ok && answer.headers.get('Content-Type')?.startsWith('text/html')) answer = await ask('POST')
  } catch (error) {
    throw new OutsideProblem(`The link could not be reached: ${(error as Error).message}.`)
  }
  const location = answer.headers.get('Location')
  if (location !== null) {
    const page = await fetchPage(new URL(location, address).href, [publicUrl, ...(standIns === null ? [] : [standIns])])
    return { status: page.status, address: page.address, size: page.html.length, sha256: '' }
  }
  const hash = createHash('sha256')
  let size = 0
  for await (const chunk of answer.body ?? []) {
    size += chunk.length
    hash.update(chunk)
  }
  return { status: answer.status, address, size, sha256: hash.digest('hex') }
}

const LONGEST_DOWNLOAD_MS = 30_000

/** Ends a made-up person's waiting. */
export async function expireIn({ space }: Rehearsal, email: string): Promise<void> {
  const { member } = await space.known(email)
  if (member !== null) await space.expire(member.id)
}
