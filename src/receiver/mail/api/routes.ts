import { memberIdSchema } from '#core/ids'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import {
  mailOnListSchema,
  mailServerSchema,
  mailStateSchema,
  messageWishSchema,
  paceSchema,
  queuedMailStates,
  saidSchema,
  senderFindingSchema,
  toMemberSchema,
} from '#core/api'
import { answers, body, done, problem, readings } from '../../http/answers'

/** How mail goes, for the owner: set up, on its way, tried. */

export const readMailState = createRoute({
  method: 'get',
  path: '/mail',
  summary: 'How mail is sent, and how much waits.',
  responses: { ...answers, 200: done(mailStateSchema) },
})

export const listMails = createRoute({
  method: 'get',
  path: '/mail/queue',
  summary: 'Mails that wait, were sent, were refused or became needless, newest first, at most 200.',
  request: {
    query: z.object({ state: z.enum(queuedMailStates).default('waiting') }),
  },
  responses: { ...answers, 200: done(z.object({ mails: z.array(mailOnListSchema) })) },
})

export const listMailsToMember = createRoute({
  method: 'get',
  path: '/mail/members/{member}',
  summary:
    'Mails to one member, newest first, at most 200; none for one who is not here. And whether the gift was fetched.',
  request: { params: z.object({ member: memberIdSchema }) },
  responses: { ...answers, 200: done(toMemberSchema) },
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
  request: body(z.strictObject({ server: mailServerSchema.nullable() })),
  responses: { ...answers, ...readings, 409: problem('`SMTP_URL` sets it.'), 200: done(mailStateSchema) },
})

export const keepPace = createRoute({
  method: 'put',
  path: '/mail/pace',
  summary: 'How fast mail goes, and whether it goes at all.',
  request: body(z.strictObject({ pace: paceSchema, isStopped: z.boolean() })),
  responses: { ...answers, ...readings, 200: done(mailStateSchema) },
})

export const goOn = createRoute({
  method: 'post',
  path: '/mail/go-on',
  summary: 'Goes on with sending that stopped by itself; what waits is tried at once.',
  responses: { ...answers, 200: done(mailStateSchema) },
})

export const putBackMarked = createRoute({
  method: 'post',
  path: '/mail/put-back',
  summary:
    'Puts back who was marked for a refusal that was not about the address; who waited gets the confirmation again.',
  responses: { ...answers, 200: done(z.object({ count: z.int(), mail: mailStateSchema })) },
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
  responses: { ...answers, ...readings, 200: done(mailStateSchema) },
})

export const sendTest = createRoute({
  method: 'post',
  path: '/mail/test',
  summary: 'Sends one mail at once: a plain test of the server, or a message as it stands in the settings given.',
  request: body(
    z.strictObject({
      to: z.string().max(320),
      message: messageWishSchema.nullable(),
    }),
  ),
  responses: { ...answers, ...readings, 200: done(saidSchema) },
})

export const sendCode = createRoute({
  method: 'post',
  path: '/mail/inbox',
  summary: 'Sends a code to an inbox of the owner’s own, as the list’s published mail is sent.',
  request: body(z.strictObject({ list: z.string(), to: z.string().max(320) })),
  responses: { ...answers, ...readings, 200: done(saidSchema) },
})

export const typeCode = createRoute({
  method: 'post',
  path: '/mail/inbox/code',
  summary: 'The code as it was read there: mail of the list arrives.',
  request: body(z.strictObject({ list: z.string(), code: z.string().max(40) })),
  responses: { ...answers, ...readings, 200: done(saidSchema) },
})

export const writeMessage = createRoute({
  method: 'post',
  path: '/mail/message',
  summary: 'A message as it would be sent, as the bytes of one mail in base64.',
  request: body(messageWishSchema.extend({ to: z.string().max(320) })),
  responses: { ...answers, ...readings, 200: done(z.object({ eml: z.string() })) },
})

export const checkSenderRoute = createRoute({
  method: 'get',
  path: '/mail/sender',
  summary: 'What receiving servers will make of a sender, as far as name servers tell.',
  request: { query: z.object({ sender: z.string().max(320).default(''), bounce: z.string().max(320).default('') }) },
  responses: { ...answers, 200: done(z.object({ findings: z.array(senderFindingSchema) })) },
})
