import { z } from 'zod'
import { addressesIn, ofPeople } from '#core/privacy'
import { memberIdSchema } from '#core/ids'
import { route } from './route'
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
const mailServerSchema = smtpServerSchema.extend({ password: z.string().max(1_000).nullable() })
export type MailServer = z.infer<typeof mailServerSchema>

/** How many mails go at most. */
export const paceSchema = z.strictObject({
  minute: z.int().min(1).max(100_000),
  hour: z.int().min(1).max(1_000_000),
  day: z.int().min(1).max(10_000_000),
})
export type Pace = z.infer<typeof paceSchema>

/** Sending that stopped by itself, since the server refused several people alike, in the server's words. */
export const haltedSchema = z.strictObject({ at: z.int(), said: addressesIn(z.string()) })

/** A domain that takes none of us, in its server's words; times in milliseconds since 1970. */
export const refusingDomainSchema = z.strictObject({
  domain: z.string().max(255),
  at: z.int(),
  said: addressesIn(z.string()),
  /** When it is asked next whether it still does. */
  nextAt: z.int(),
})
export type RefusingDomain = z.infer<typeof refusingDomainSchema>

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

const senderFindingSchema = z.object({
  about: z.enum(['free-mail', 'return-path', 'spf', 'dkim', 'dmarc']),
  verdict: z.enum(['good', 'look', 'unknown']),
  found: z.string(),
  says: z.string(),
  /** A TXT record that mends it, ready to paste, with the texts that it takes the place of. */
  proposed: z.object({ name: z.string(), value: z.string(), replaces: z.array(z.string()) }).nullable(),
})
export type SenderFinding = z.infer<typeof senderFindingSchema>

const recordKinds = ['spf', 'dkim', 'dmarc'] as const
/** A sender whose records are looked up until all are there; times in milliseconds since 1970. */
export const awaitedSenderSchema = z.object({
  sender: z.string(),
  bounce: z.string(),
  /** Records that are not there yet, or not right. */
  missing: z.array(z.enum(recordKinds)),
  since: z.int(),
  /** When name servers were asked last; null before they were. */
  lookedAt: z.int().nullable(),
  /** When nothing was missing any more; null until then. */
  thereAt: z.int().nullable(),
})
export type AwaitedSender = z.infer<typeof awaitedSenderSchema>

/** How mail is sent, and how much waits. */
const mailStateSchema = z.object({
  server: smtpServerSchema.omit({ password: true }).extend({ hasPassword: z.boolean() }).nullable(),
  /** `environment` is `SMTP_URL`, which cannot be changed on screen. */
  from: z.enum(['environment', 'screen']).nullable(),
  isStandIn: z.boolean(),
  hasMailbox: z.boolean(),
  pace: paceSchema,
  isStopped: z.boolean(),
  halted: haltedSchema.nullable(),
  refusing: z.array(refusingDomainSchema.extend({ /** Mails that wait for it. */ waiting: z.int() })).default([]),
  awaited: z.array(awaitedSenderSchema).default([]),
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

const queuedMailStates = ['waiting', 'sending', 'sent', 'refused', 'dropped'] as const
/** A mail of the queue; times in milliseconds since 1970. */
const mailOnListSchema = z.object({
  id: z.string(),
  list: z.string(),
  member: z.string(),
  kind: z.string() as unknown as z.ZodType<MailKind>,
  recipient: ofPeople(z.string()),
  queued: z.int(),
  due: z.int(),
  state: z.enum(queuedMailStates),
  attempts: z.int(),
  said: addressesIn(z.string()),
})
export type MailOnList = z.infer<typeof mailOnListSchema>

/** What the receiver knows of one member besides the journal. */
const toMemberSchema = z.object({
  mails: z.array(mailOnListSchema),
  /** How often their gift was fetched, and when last, in milliseconds since 1970; 0 for never. */
  gift: z.object({ times: z.int(), last: z.number() }),
})
export type ToMember = z.infer<typeof toMemberSchema>

/** A message as it stands in the owner's hands, published or not. */
const messageWishSchema = z.strictObject({
  list: z.string(),
  settings: mailSettingsSchema,
  kind: z.enum(messageKinds),
})
export type MessageWish = z.infer<typeof messageWishSchema>

/** Whether it was sent, or typed in right, and what was said of it. */
const saidSchema = z.object({ ok: z.boolean(), said: addressesIn(z.string()) })

const takenReportSchema = z.object({
  recipient: ofPeople(z.string()),
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

export const mailRoutes = {
  readMailState: route({
    method: 'get',
    path: '/mail',
    needs: 'see',
    summary: 'How mail is sent, and how much waits.',
    answer: mailStateSchema,
  }),
  listMails: route({
    method: 'get',
    path: '/mail/queue',
    needs: 'see-people',
    summary: 'Mails that wait, were sent, were refused or became needless, newest first, at most 200.',
    query: z.object({ state: z.enum(queuedMailStates).default('waiting') }),
    answer: z.object({ mails: z.array(mailOnListSchema) }),
  }),
  listMailsToMember: route({
    method: 'get',
    path: '/mail/members/{member}',
    needs: 'see-people',
    summary:
      'Mails to one member, newest first, at most 200; none for one who is not here. And whether the gift was fetched.',
    params: z.object({ member: memberIdSchema }),
    answer: toMemberSchema,
  }),
  tryMailAgain: route({
    method: 'post',
    path: '/mail/queue/{id}/again',
    needs: 'edit',
    summary: 'Tries a mail now that waits for its next try or was given up.',
    params: z.object({ id: z.string() }),
    answer: z.object({ isQueued: z.boolean() }),
  }),
  keepMailServer: route({
    method: 'put',
    path: '/mail/server',
    needs: 'own',
    summary: 'Sets the mail server up. Without a password, the one that is kept stays. `server: null` forgets it.',
    body: z.strictObject({ server: mailServerSchema.nullable() }),
    answer: mailStateSchema,
    refusals: { 409: '`SMTP_URL` sets it.' },
  }),
  keepPace: route({
    method: 'put',
    path: '/mail/pace',
    needs: 'own',
    summary: 'How fast mail goes, and whether it goes at all.',
    body: z.strictObject({ pace: paceSchema, isStopped: z.boolean() }),
    answer: mailStateSchema,
  }),
  goOn: route({
    method: 'post',
    path: '/mail/go-on',
    needs: 'edit',
    summary: 'Goes on with sending that stopped by itself; what waits is tried at once.',
    answer: mailStateSchema,
  }),
  putBackMarked: route({
    method: 'post',
    path: '/mail/put-back',
    needs: 'edit',
    summary:
      'Puts back who was marked for a refusal that was not about the address; who waited gets the confirmation again.',
    answer: z.object({ count: z.int(), mail: mailStateSchema }),
  }),
  keepDkim: route({
    method: 'put',
    path: '/mail/dkim',
    needs: 'own',
    summary:
      'Makes a key that mail is signed with (RFC 6376), or forgets it. Its public half is for the domain’s name server.',
    body: z.strictObject({
      domain: z
        .string()
        .max(255)
        .regex(/^(?:[a-z0-9-]{1,63}\.){1,10}[a-z0-9-]{1,63}$/)
        .nullable(),
    }),
    answer: mailStateSchema,
  }),
  sendTest: route({
    method: 'post',
    path: '/mail/test',
    needs: 'edit',
    summary: 'Sends one mail at once: a plain test of the server, or a message as it stands in the settings given.',
    body: z.strictObject({
      to: z.string().max(320),
      message: messageWishSchema.nullable(),
    }),
    answer: saidSchema,
  }),
  sendCode: route({
    method: 'post',
    path: '/mail/inbox',
    needs: 'edit',
    summary: 'Sends a code to an inbox of the owner’s own, as the list’s published mail is sent.',
    body: z.strictObject({ list: z.string(), to: z.string().max(320) }),
    answer: saidSchema,
  }),
  typeCode: route({
    method: 'post',
    path: '/mail/inbox/code',
    needs: 'edit',
    summary: 'The code as it was read there: mail of the list arrives.',
    body: z.strictObject({ list: z.string(), code: z.string().max(40) }),
    answer: saidSchema,
  }),
  writeMessage: route({
    method: 'post',
    path: '/mail/message',
    needs: 'edit',
    summary: 'A message as it would be sent, as the bytes of one mail in base64.',
    body: messageWishSchema.extend({ to: z.string().max(320) }),
    answer: z.object({ eml: z.string() }),
  }),
  checkSenderRoute: route({
    method: 'get',
    path: '/mail/sender',
    needs: 'see',
    summary: 'What receiving servers will make of a sender, as far as name servers tell.',
    query: z.object({ sender: z.string().max(320).default(''), bounce: z.string().max(320).default('') }),
    answer: z.object({ findings: z.array(senderFindingSchema) }),
  }),
  awaitRecords: route({
    method: 'put',
    path: '/mail/awaited',
    needs: 'edit',
    summary: 'Looks up what a sender’s domain is missing until it is there, for 14 days at most; or looks no more.',
    body: z.strictObject({ sender: z.string().max(320), bounce: z.string().max(320), look: z.boolean() }),
    answer: mailStateSchema,
  }),
  takeReport: route({
    method: 'post',
    path: '/mail/reports',
    needs: 'edit',
    summary: 'Takes in a delivery report (RFC 3464) as the bytes of one mail, at most 1 MB: forward bounces to it.',
    body: z.unknown().meta({ type: 'string', format: 'binary' }),
    takes: 'message/rfc822',
    answer: takenReportSchema,
    refusals: { 413: 'More than 1 MB.', 422: 'It is no report of a mail that was sent from here.' },
  }),
}
