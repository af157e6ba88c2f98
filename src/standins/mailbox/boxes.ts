import { randomUUID } from 'node:crypto'
import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { z } from 'zod'

/**
 * How the mailbox treats mail to addresses that contain a text: `refuse` (550), `busy` (451, come again later), `delay`
 * (taken, and put into its box so many seconds later), `bounce` (taken, and reported as undeliverable to the return path).
 */
export const behaviourSchema = z.strictObject({
  rules: z
    .array(
      z.strictObject({
        to: z.string().max(320),
        does: z.enum(['refuse', 'busy', 'delay', 'bounce']),
        seconds: z.number().min(0).max(600),
      }),
    )
    .max(50),
})
export type Behaviour = z.infer<typeof behaviourSchema>

/**
 * One box an address, on disk in the manner of Maildir: a file a mail in `<address>/new`, written beside and moved in
 * whole, so whoever reads never meets half a mail. `behaviour.json` beside them says what goes wrong; it is read at each mail.
 */
export class Boxes {
  constructor(private readonly folder: string) {
    mkdirSync(folder, { recursive: true })
  }

  behaviour(): Behaviour {
    try {
      return behaviourSchema.parse(JSON.parse(readFileSync(join(this.folder, 'behaviour.json'), 'utf8')))
    } catch {
      return { rules: [] }
    }
  }

  /** What happens to mail for an address; null when it is simply taken. */
  ruleFor(address: string): Behaviour['rules'][number] | null {
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

/** An address as a folder's name: never a path. */
export function boxName(address: string): string {
  return encodeURIComponent(address.toLowerCase()).replaceAll('.', '%2E').slice(0, 200)
}
