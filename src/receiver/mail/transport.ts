import type { SmtpServer } from '#core/api'
import { createReadStream } from 'node:fs'
import nodemailer, { type Transporter } from 'nodemailer'
import { causeOf, enhancedStatus, type MailReply, type RefusalCause } from '#core/mail'
import { keepableText } from '#core/text'
import type { ComposedMail } from './compose'
import type { Dkim } from './settings'

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
    // A server may take ten minutes to answer the end of a mail (RFC 5321, section 4.5.3.2.6); given up sooner, it is sent twice.
    socketTimeout: 10 * 60_000 + 10_000,
    ...(server.user !== '' && { auth: { user: server.user, pass: server.password } }),
    ...(dkim !== null && {
      dkim: { domainName: dkim.domain, keySelector: dkim.selector, privateKey: dkim.privateKey },
    }),
  })
  return {
    async send(mail) {
      const { response } = (await transporter.sendMail(withFiles(mail))) as { response: string }
      return keepableText(response, MOST_SAID)
    },
    close: () => transporter.close(),
  }
}

/** A mail as the bytes that would be sent. */
export async function bytesOf(mail: ComposedMail): Promise<Buffer> {
  const writer = nodemailer.createTransport({ streamTransport: true, buffer: true, newline: 'windows' })
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

export interface MailRefusal {
  cause: RefusalCause
  /** The reply's; null where nothing was answered. */
  code: number | null
  /** The same for refusals that say the same: the reply's code, its status and where it came. */
  key: string
  stage: MailReply['stage']
  said: string
}

/** Reads what went wrong with a mail, and whose fault it is. */
export function refusalOf(error: unknown): MailRefusal {
  const { responseCode, response, command, code, message } = error as {
    responseCode?: number
    response?: string
    command?: string
    code?: string
    message?: string
  }
  const said = keepableText((response ?? message ?? 'No answer').replaceAll(/\s+/g, ' ').trim(), MOST_SAID)
  const reply: MailReply = { code: responseCode ?? null, stage: stageOf(command, code), text: response ?? '' }
  return {
    cause: causeOf(reply),
    code: reply.code,
    stage: reply.stage,
    key: [reply.stage, reply.code, enhancedStatus(reply.text)].join(' '),
    said,
  }
}

/** A server's answer, truncated and cleaned: no NUL, no lone surrogate. */
const MOST_SAID = 500

/** By nodemailer's names of commands; its code for a refused mail is EMESSAGE. */
function stageOf(command = '', code = ''): MailReply['stage'] {
  if (/^RCPT/i.test(command)) return 'recipient'
  return /^DATA/i.test(command) && code === 'EMESSAGE' ? 'content' : 'other'
}
