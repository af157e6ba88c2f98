import { z } from 'zod'
import { deliverySchema, type MailKind, mailSettingsSchema, messageKinds } from '#core/mail'
import { mailboxBehaviourSchema } from '#core/mailbox'

/** How a mail server is reached. The password is written and never shown again. */
export const smtpServerSchema = z.strictObject({
  host: z
    .string()
    .min(1)
    .max(255)
    .regex(/^[\w.:-]+$/, 'must be a host name'),
  port: z.int().min(1).max(65_535),
  /** `tls` from the first byte (port 465, RFC 8314), `starttls` after a plain beginning (port 587), or neither. */
  security: z.enum(['tls', 'starttls', 'none']),
  user: z.string().max(320),
  password: z.string().max(1_000),
})
export type SmtpServer = z.infer<typeof smtpServerSchema>

/** The same as it is set up; null keeps the password that is there. */
export const mailServerSchema = smtpServerSchema.extend({ password: z.string().max(1_000).nullable() })
export type MailServer = z.infer<typeof mailServerSchema>

/** How many mails go at most. */
export const paceSchema = z.strictObject({
  minute: z.int().min(1).max(100_000),
  hour: z.int().min(1).max(1_000_000),
  day: z.int().min(1).max(10_000_000),
})
export type Pace = z.infer<typeof paceSchema>

/** Sending that stopped by itself, since the server refused several people alike, in the server's words. */
export const haltedSchema = z.strictObject({ at: z.int(), said: z.string() })

/** A code that was sent to an inbox of the owner's own; times in milliseconds since 1970. */
const ownInboxSchema = z.object({
  list: z.string(),
  to: z.string(),
  sentAt: z.int(),
  /** When the code was typed in; null until then. */
  arrivedAt: z.int().nullable(),
  /** Whether sender and server are still those of then. */
  isAsThen: z.boolean(),
})
export type OwnInbox = z.infer<typeof ownInboxSchema>

/** How mail is sent, and how much waits. */
export const mailStateSchema = z.object({
  server: smtpServerSchema.omit({ password: true }).extend({ hasPassword: z.boolean() }).nullable(),
  /** `environment` is `SMTP_URL`, which cannot be changed on screen. */
  from: z.enum(['environment', 'screen']).nullable(),
  isStandIn: z.boolean(),
  hasMailbox: z.boolean(),
  pace: paceSchema,
  isStopped: z.boolean(),
  halted: haltedSchema.nullable(),
  /** People who were marked for a refusal that was not about their address. */
  wronglyMarked: z.int(),
  dkim: z.object({ domain: z.string(), selector: z.string(), name: z.string(), value: z.string() }).nullable(),
  counts: z.object({ waiting: z.int(), sent: z.int(), refused: z.int(), dropped: z.int() }),
  /** When the last of what waits will be out; null when nothing goes. */
  lastOutAt: z.int().nullable(),
  /** By list, how far it is known that its mail arrives. */
  delivery: z.record(z.string(), deliverySchema),
  ownInboxes: z.array(ownInboxSchema),
})
export type MailState = z.infer<typeof mailStateSchema>

export const queuedMailStates = ['waiting', 'sending', 'sent', 'refused', 'dropped'] as const
/** A mail of the queue; times in milliseconds since 1970. */
export const mailOnListSchema = z.object({
  id: z.string(),
  list: z.string(),
  member: z.string(),
  kind: z.string() as unknown as z.ZodType<MailKind>,
  recipient: z.string(),
  queued: z.int(),
  due: z.int(),
  state: z.enum(queuedMailStates),
  attempts: z.int(),
  said: z.string(),
})
export type MailOnList = z.infer<typeof mailOnListSchema>

/** What the receiver knows of one member besides the journal. */
export const toMemberSchema = z.object({
  mails: z.array(mailOnListSchema),
  /** How often their gift was fetched, and when last, in milliseconds since 1970; 0 for never. */
  gift: z.object({ times: z.int(), last: z.number() }),
})
export type ToMember = z.infer<typeof toMemberSchema>

/** A message as it stands in the owner's hands, published or not. */
export const messageWishSchema = z.strictObject({
  list: z.string(),
  settings: mailSettingsSchema,
  kind: z.enum(messageKinds),
})
export type MessageWish = z.infer<typeof messageWishSchema>

/** Whether it was sent, or typed in right, and what was said of it. */
export const saidSchema = z.object({ ok: z.boolean(), said: z.string() })

export const senderFindingSchema = z.object({
  about: z.enum(['free-mail', 'return-path', 'spf', 'dmarc']),
  verdict: z.enum(['good', 'look', 'unknown']),
  found: z.string(),
  says: z.string(),
})
export type SenderFinding = z.infer<typeof senderFindingSchema>

export const takenReportSchema = z.object({
  recipient: z.string(),
  status: z.string(),
  isForGood: z.boolean(),
  member: z.boolean(),
})

const boxSchema = z.object({ address: z.string(), count: z.int(), newest: z.int() })
export type Box = z.infer<typeof boxSchema>
/** The boxes of the stand-in mailbox, and what goes wrong there. */
export const boxesSchema = z.object({ boxes: z.array(boxSchema), behaviour: mailboxBehaviourSchema })
/** @property bytes of one mail, in base64 */
export const boxedMailsSchema = z.object({
  mails: z.array(z.object({ id: z.string(), at: z.int(), bytes: z.string() })),
})
