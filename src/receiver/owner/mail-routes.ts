import { createRoute, z } from '@hono/zod-openapi'
import { deliverySchema, mailSettingsSchema, messageKinds } from '#core/mail'
import { mailboxBehaviourSchema } from '#core/mailbox'
import { paceSchema, smtpServerSchema } from '../mail'
import { answers, body, done, problem, readings } from './routes'

/** How mail goes, for the owner: set up, on its way, in the stand-in mailbox. */

const serverShown = smtpServerSchema.omit({ password: true }).extend({ hasPassword: z.boolean() })

const mailShown = z.object({
  id: z.string(),
  list: z.string(),
  member: z.string(),
  kind: z.string(),
  recipient: z.string(),
  queued: z.int(),
  due: z.int(),
  state: z.string(),
  attempts: z.int(),
  said: z.string(),
})
export type MailShown = z.infer<typeof mailShown>

const mailState = z.object({
  server: serverShown.nullable(),
  /** `environment` is `SMTP_URL`, which cannot be changed here. */
  from: z.enum(['environment', 'screen']).nullable(),
  isStandIn: z.boolean(),
  hasMailbox: z.boolean(),
  pace: paceSchema,
  isStopped: z.boolean(),
  /** Sending that stopped by itself, since the server refused several people alike. */
  halted: z.object({ at: z.int(), said: z.string() }).nullable(),
  /** People who were marked for a refusal that was not about their address. */
  wronglyMarked: z.int(),
  dkim: z.object({ domain: z.string(), selector: z.string(), name: z.string(), value: z.string() }).nullable(),
  counts: z.object({ waiting: z.int(), sent: z.int(), refused: z.int(), dropped: z.int() }),
  /** When the last of what waits will be out; null when nothing goes. */
  lastOutAt: z.int().nullable(),
  /** By list, how far it is known that its mail arrives. */
  delivery: z.record(z.string(), deliverySchema),
  /** Codes sent to inboxes of the owner's own; `isAsThen` while sender and server are the same. */
  ownInboxes: z.array(
    z.object({
      list: z.string(),
      to: z.string(),
      sentAt: z.int(),
      arrivedAt: z.int().nullable(),
      isAsThen: z.boolean(),
    }),
  ),
})
export type MailState = z.infer<typeof mailState>

export const readMailState = createRoute({
  method: 'get',
  path: '/mail',
  summary: 'How mail is sent, and how much waits.',
  responses: { ...answers, 200: done(mailState) },
})

export const listMails = createRoute({
  method: 'get',
  path: '/mail/queue',
  summary: 'Mails that wait, were sent, were refused or became needless, newest first, at most 200.',
  request: {
    query: z.object({ state: z.enum(['waiting', 'sent', 'refused', 'dropped', 'sending']).default('waiting') }),
  },
  responses: { ...answers, 200: done(z.object({ mails: z.array(mailShown) })) },
})

export const tryMailAgain = createRoute({
  method: 'post',
  path: '/mail/queue/{id}/again',
  summary: 'Tries a mail now that waits for its next try or was given up.',
  request: { params: z.object({ id: z.string() }) },
  responses: { ...answers, 200: done(z.object({ isQueued: z.boolean() })) },
})

export const keepMailServer = createRoute({
  method: 'put',
  path: '/mail/server',
  summary: 'Sets the mail server up. Without a password, the one that is kept stays. `server: null` forgets it.',
  request: body(
    z.strictObject({ server: smtpServerSchema.extend({ password: z.string().max(1_000).nullable() }).nullable() }),
  ),
  responses: { ...answers, ...readings, 409: problem('`SMTP_URL` sets it.'), 200: done(mailState) },
})

export const keepPace = createRoute({
  method: 'put',
  path: '/mail/pace',
  summary: 'How fast mail goes, and whether it goes at all.',
  request: body(z.strictObject({ pace: paceSchema, isStopped: z.boolean() })),
  responses: { ...answers, ...readings, 200: done(mailState) },
})

export const goOn = createRoute({
  method: 'post',
  path: '/mail/go-on',
  summary: 'Goes on with sending that stopped by itself; what waits is tried at once.',
  responses: { ...answers, 200: done(mailState) },
})

export const putBackMarked = createRoute({
  method: 'post',
  path: '/mail/put-back',
  summary:
    'Puts back who was marked for a refusal that was not about the address; who waited gets the confirmation again.',
  responses: { ...answers, 200: done(z.object({ count: z.int(), mail: mailState })) },
})

export const keepDkim = createRoute({
  method: 'put',
  path: '/mail/dkim',
  summary:
    'Makes a key that mail is signed with (RFC 6376), or forgets it. Its public half is for the domain’s name server.',
  request: body(
    z.strictObject({
      domain: z
        .string()
        .max(255)
        .regex(/^(?:[a-z0-9-]{1,63}\.){1,10}[a-z0-9-]{1,63}$/)
        .nullable(),
    }),
  ),
  responses: { ...answers, ...readings, 200: done(mailState) },
})

const outcome = z.object({ ok: z.boolean(), said: z.string() })

export const sendTest = createRoute({
  method: 'post',
  path: '/mail/test',
  summary: 'Sends one mail at once: a plain test of the server, or a message as it stands in the settings given.',
  request: body(
    z.strictObject({
      to: z.string().max(320),
      message: z
        .strictObject({ list: z.string(), settings: mailSettingsSchema, kind: z.enum(messageKinds) })
        .nullable(),
    }),
  ),
  responses: { ...answers, ...readings, 200: done(outcome) },
})

export const sendCode = createRoute({
  method: 'post',
  path: '/mail/inbox',
  summary: 'Sends a code to an inbox of the owner’s own, as the list’s published mail is sent.',
  request: body(z.strictObject({ list: z.string(), to: z.string().max(320) })),
  responses: { ...answers, ...readings, 200: done(outcome) },
})

export const typeCode = createRoute({
  method: 'post',
  path: '/mail/inbox/code',
  summary: 'The code as it was read there: mail of the list arrives.',
  request: body(z.strictObject({ list: z.string(), code: z.string().max(40) })),
  responses: { ...answers, ...readings, 200: done(outcome) },
})

export const writeMessage = createRoute({
  method: 'post',
  path: '/mail/message',
  summary: 'A message as it would be sent, as the bytes of one mail in base64.',
  request: body(
    z.strictObject({
      to: z.string().max(320),
      list: z.string(),
      settings: mailSettingsSchema,
      kind: z.enum(messageKinds),
    }),
  ),
  responses: { ...answers, ...readings, 200: done(z.object({ eml: z.string() })) },
})

const senderFinding = z.object({
  about: z.enum(['free-mail', 'return-path', 'spf', 'dmarc']),
  verdict: z.enum(['good', 'look', 'unknown']),
  found: z.string(),
  says: z.string(),
})
export const checkSenderRoute = createRoute({
  method: 'get',
  path: '/mail/sender',
  summary: 'What receiving servers will make of a sender, as far as name servers tell.',
  request: { query: z.object({ sender: z.string().max(320).default(''), bounce: z.string().max(320).default('') }) },
  responses: { ...answers, 200: done(z.object({ findings: z.array(senderFinding) })) },
})

export const takeDeliveryReport = createRoute({
  method: 'post',
  path: '/mail/reports',
  summary: 'Takes in a delivery report (RFC 3464) as the bytes of one mail, at most 1 MB: forward bounces to it.',
  request: {
    body: { content: { 'message/rfc822': { schema: z.string().openapi({ format: 'binary' }) } }, required: true },
  },
  responses: {
    ...answers,
    422: problem('It is no report of a mail that was sent from here.'),
    200: done(z.object({ recipient: z.string(), status: z.string(), isForGood: z.boolean(), member: z.boolean() })),
  },
})

const boxShown = z.object({ address: z.string(), count: z.int(), newest: z.int() })
const boxedMail = z.object({ id: z.string(), at: z.int(), bytes: z.string() })
const noMailbox = { 404: problem('No stand-in mailbox runs beside this receiver.') }

export const listBoxes = createRoute({
  method: 'get',
  path: '/mailbox',
  summary: 'The boxes of the stand-in mailbox, and what goes wrong there.',
  responses: {
    ...answers,
    ...noMailbox,
    200: done(z.object({ boxes: z.array(boxShown), behaviour: mailboxBehaviourSchema })),
  },
})
export const readBox = createRoute({
  method: 'get',
  path: '/mailbox/{address}',
  summary: 'What lies in one box, newest first.',
  request: { params: z.object({ address: z.string().max(320) }) },
  responses: { ...answers, ...noMailbox, 200: done(z.object({ mails: z.array(boxedMail) })) },
})
export const behaveMailbox = createRoute({
  method: 'put',
  path: '/mailbox/behaviour',
  summary: 'What goes wrong in the stand-in mailbox, by a part of the address.',
  request: body(mailboxBehaviourSchema),
  responses: { ...answers, ...readings, ...noMailbox, 200: done(z.object({ ok: z.literal(true) })) },
})
export const emptyMailbox = createRoute({
  method: 'post',
  path: '/mailbox/empty',
  summary: 'Empties all boxes.',
  responses: { ...answers, ...noMailbox, 200: done(z.object({ ok: z.literal(true) })) },
})
