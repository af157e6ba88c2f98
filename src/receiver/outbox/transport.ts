import { createReadStream } from 'node:fs'
import nodemailer, { type Transporter } from 'nodemailer'
import type { ComposedMail } from './compose'
import type { Dkim, SmtpServer } from './settings'

/** Some connections at once: a server that takes one mail after the other takes most of the time to answer. */
const CONNECTIONS = 4

export interface Transport {
  /** @returns what the server answered */
  send(mail: ComposedMail): Promise<string>
  close(): void
}

export function openTransport(server: SmtpServer, dkim: Dkim | null): Transport {
  const transporter: Transporter = nodemailer.createTransport({
    pool: true,
    maxConnections: CONNECTIONS,
    host: server.host,
    port: server.port,
    secure: server.security === 'tls',
    requireTLS: server.security === 'starttls',
    ignoreTLS: server.security === 'none',
    connectionTimeout: 15_000,
    greetingTimeout: 15_000,
    socketTimeout: 60_000,
    ...(server.user !== '' && { auth: { user: server.user, pass: server.password } }),
    ...(dkim !== null && {
      dkim: { domainName: dkim.domain, keySelector: dkim.selector, privateKey: dkim.privateKey },
    }),
  } as never)
  return {
    async send(mail) {
      const { response } = (await transporter.sendMail(withFiles(mail))) as { response: string }
      return response
    },
    close: () => transporter.close(),
  }
}

/** A mail as the bytes that would be sent. */
export async function bytesOf(mail: ComposedMail): Promise<Buffer> {
  const writer = nodemailer.createTransport({ streamTransport: true, buffer: true, newline: 'windows' } as never)
  const { message } = (await writer.sendMail(withFiles(mail))) as unknown as { message: Buffer }
  return message
}

/** Files are read here, each from where it was told to be, because nodemailer may open none. */
function withFiles({ files, ...mail }: ComposedMail) {
  return {
    ...mail,
    attachments: files.map(({ path, name, type }) => ({
      filename: name,
      contentType: type,
      content: createReadStream(path),
    })),
  }
}

export type Refusal = { isForGood: boolean; isAddress: boolean; said: string }

/** Reads what went wrong: a reply of 5xx is for good (RFC 5321, section 4.2.1), everything else may pass. */
export function refusalOf(error: unknown): Refusal {
  const { responseCode, response, command, code, message } = error as {
    responseCode?: number
    response?: string
    command?: string
    code?: string
    message?: string
  }
  const isForGood = responseCode !== undefined && responseCode >= 500 && code !== 'EAUTH'
  return {
    isForGood,
    // Only an answer to the recipient says something of the recipient.
    isAddress: isForGood && /^RCPT/i.test(command ?? ''),
    said: (response ?? message ?? 'No answer').replaceAll(/\s+/g, ' ').trim(),
  }
}
