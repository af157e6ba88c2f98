import { randomBytes } from 'node:crypto'
import { createTransport } from 'nodemailer'
import type { HeldPerson, PretendList, Service } from './holdings'

/** Mails of the services' own, to who has yet to confirm. */
export interface Asking {
  ask(service: Service, list: PretendList, person: HeldPerson): void
  /** Who follows a link of such a mail; null for a link of nobody. */
  answered(token: string): { service: Service; list: string; email: string } | null
}

/**
 * @param address of this program
 * @param smtpPort of the stand-in mailbox
 */
export function openAsking(address: string, smtpPort: number): Asking {
  const asked = new Map<string, { service: Service; list: string; email: string }>()
  const transport = createTransport({ host: '127.0.0.1', port: smtpPort, secure: false, ignoreTLS: true })
  return {
    ask(service, list, person) {
      const token = randomBytes(9).toString('base64url')
      asked.set(token, { service, list: list.id, email: person.email })
      transport
        .sendMail({
          from: `${list.name} <no-reply@${service}.example>`,
          to: person.email,
          subject: `Please confirm: ${list.name}`,
          text: `This is the pretend service’s own mail. To join “${list.name}”, follow this link:\n${address}/confirm/${token}\n`,
        })
        .catch((error: unknown) => console.error(error))
    },
    answered: (token) => asked.get(token) ?? null,
  }
}
