import { z } from 'zod'

/** What the stand-in mailbox and those who look into it have to agree on. */

/**
 * How it treats mail to addresses that contain a text: `refuse` (550), `busy` (451, come again later), `delay` (taken, and
 * put into its box so many seconds later), `bounce` (taken, and reported as undeliverable to the return path).
 */
const ruleSchema = z.strictObject({
  to: z.string().max(320),
  does: z.enum(['refuse', 'busy', 'delay', 'bounce']),
  seconds: z.number().min(0).max(600),
})
export type MailboxRule = z.infer<typeof ruleSchema>

export const mailboxBehaviourSchema = z.strictObject({ rules: z.array(ruleSchema).max(50) })
export type MailboxBehaviour = z.infer<typeof mailboxBehaviourSchema>

/** An address as the name of its box's folder: never a path. */
export function boxName(address: string): string {
  return encodeURIComponent(address.toLowerCase()).replaceAll('.', '%2E').slice(0, 200)
}

export function boxAddress(name: string): string {
  return decodeURIComponent(name)
}
