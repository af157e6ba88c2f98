import { randomUUID } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { boxName, type MailboxBehaviour, mailboxBehaviourSchema, type MailboxRule } from '#core/mailbox'

/**
 * One box an address, on disk in the manner of Maildir: a file a mail in `<address>/new`, written beside and moved in
 * whole, so whoever reads never meets half a mail. `behaviour.json` beside them says what goes wrong; it is read at each mail.
 */
export class Boxes {
  constructor(private readonly folder: string) {
    mkdirSync(folder, { recursive: true })
  }

  behaviour(): MailboxBehaviour {
    try {
      return mailboxBehaviourSchema.parse(JSON.parse(readFileSync(join(this.folder, 'behaviour.json'), 'utf8')))
    } catch {
      return { rules: [] }
    }
  }

  /** How it behaves until somebody says otherwise. */
  startBehaviour(behaviour: MailboxBehaviour): void {
    const file = join(this.folder, 'behaviour.json')
    if (!existsSync(file)) writeFileSync(file, JSON.stringify(behaviour))
  }

  /** What happens to mail for an address; null when it is simply taken. */
  ruleFor(address: string): MailboxRule | null {
    return this.behaviour().rules.find(({ to }) => address.toLowerCase().includes(to.toLowerCase())) ?? null
  }

  put(address: string, returnPath: string, bytes: Buffer, now: number): void {
    const box = join(this.folder, boxName(address))
    for (const part of ['tmp', 'new']) mkdirSync(join(box, part), { recursive: true })
    const name = `${String(now).padStart(14, '0')}.${randomUUID()}.eml`
    // RFC 5321, section 4.4: the server that delivers writes the return path down.
    const whole = Buffer.concat([Buffer.from(`Return-Path: <${returnPath}>\r\n`), bytes])
    writeFileSync(join(box, 'tmp', name), whole)
    renameSync(join(box, 'tmp', name), join(box, 'new', name))
  }
}
