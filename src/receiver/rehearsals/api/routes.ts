import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import {
  handedOnSchema,
  downloadedSchema,
  fetchedPageSchema,
  rehearsalMailsSchema,
  seenMemberSchema,
  startedRehearsalSchema,
  visitedSchema,
} from '#core/api'
import { spotIdSchema } from '#core/ids'
import { viewerIds } from '#core/proof'
import { answers, body, done, problem, readings } from '../../http/answers'

const code = z.object({ code: z.string() })
const as = z.enum(['paused', 'retired']).optional()
const noRehearsal = { 404: problem('No rehearsal with this code goes on.') }

export const startRehearsal = createRoute({
  method: 'post',
  path: '/rehearsals',
  summary:
    'Begins a rehearsal: its one-time code marks made-up people, who live in a space of their own until it ends: at the latest after five minutes, by hand after half an hour. It counts at one spot.',
  request: body(z.strictObject({ spot: spotIdSchema, byHand: z.boolean().optional() })),
  responses: {
    ...answers,
    ...readings,
    429: problem('Too many rehearsals go on at once.'),
    200: done(startedRehearsalSchema),
  },
})

const fill = z.strictObject({ name: z.string().max(200), value: z.string().max(20_000).nullable() })

export const visitForRehearsal = createRoute({
  method: 'post',
  path: '/rehearsals/{code}/visit',
  summary:
    'Opens a page in the receiver’s browser, with an empty profile, and uses the form on it as a hand would. `isTried` says whether that could be done, `reason` why not.',
  request: {
    params: code,
    ...body(
      z.strictObject({
        address: z.string().max(2000),
        spot: spotIdSchema,
        action: z.string().max(2000),
        pages: z.array(z.string().max(2000)).max(4),
        viewer: z.enum(viewerIds),
        words: z.array(z.string().max(200)).max(8),
        isPopUp: z.boolean(),
        fills: z.array(fill).max(500).nullable(),
        trap: z.string().max(200),
        presses: z.union([z.literal(0), z.literal(1), z.literal(2)]),
        isSlow: z.boolean().optional(),
        wasLookedAt: z.boolean().optional(),
        sweeps: z.boolean().optional(),
        wording: z.int().min(1).optional(),
      }),
    ),
  },
  responses: { ...answers, ...readings, ...noRehearsal, 200: done(visitedSchema) },
})

export const fetchForRehearsal = createRoute({
  method: 'post',
  path: '/rehearsals/{code}/fetch',
  summary: 'Fetches a page as a visitor would. From this receiver, `as` has its spot held for paused or retired.',
  request: { params: code, ...body(z.strictObject({ address: z.string().max(2000), as })) },
  responses: {
    ...answers,
    ...readings,
    ...noRehearsal,
    502: problem('The page could not be fetched; `detail` says why.'),
    200: done(fetchedPageSchema),
  },
})

export const sendForRehearsal = createRoute({
  method: 'post',
  path: '/rehearsals/{code}/send',
  summary: 'Posts a form as a browser would, to this receiver’s own actions alone, and follows where it leads.',
  request: {
    params: code,
    ...body(
      z.strictObject({
        address: z.string().max(2000),
        contentType: z
          .string()
          .max(200)
          .regex(/^[\x20-\x7e]*$/),
        body: z.base64().max(200_000),
        as,
      }),
    ),
  },
  responses: {
    ...answers,
    ...readings,
    ...noRehearsal,
    403: problem('The form sends to somewhere else than this receiver.'),
    502: problem('No answer came; `detail` says why.'),
    200: done(fetchedPageSchema),
  },
})

export const lookUpForRehearsal = createRoute({
  method: 'get',
  path: '/rehearsals/{code}/member',
  summary: 'What is known of a made-up person: the member as the journal adds up to, and every sign-up.',
  request: { params: code, query: z.object({ email: z.string().max(400) }) },
  responses: {
    ...answers,
    ...noRehearsal,
    200: done(seenMemberSchema),
  },
})

export const handOnForRehearsal = createRoute({
  method: 'post',
  path: '/rehearsals/{code}/hand-on',
  summary: 'Hands a made-up person on as their list is handed on, looks them up there, and takes them off again.',
  request: { params: code, ...body(z.object({ email: z.string().max(400) })) },
  responses: { ...answers, ...readings, ...noRehearsal, 200: done(z.object({ handed: z.array(handedOnSchema) })) },
})

export const mailsForRehearsal = createRoute({
  method: 'get',
  path: '/rehearsals/{code}/mails',
  summary: 'Mail to a made-up person as it came, read by a parser, and what of it is still on its way.',
  request: { params: code, query: z.object({ email: z.string().max(400) }) },
  responses: {
    ...answers,
    ...noRehearsal,
    200: done(rehearsalMailsSchema),
  },
})

export const downloadForRehearsal = createRoute({
  method: 'post',
  path: '/rehearsals/{code}/download',
  summary: 'Fetches a gift by its link: how large it is, and its SHA-256.',
  request: { params: code, ...body(z.strictObject({ address: z.string().max(2000) })) },
  responses: {
    ...answers,
    ...readings,
    ...noRehearsal,
    502: problem('No answer came; `detail` says why.'),
    200: done(downloadedSchema),
  },
})

export const expireForRehearsal = createRoute({
  method: 'post',
  path: '/rehearsals/{code}/expire',
  summary: 'Ends a made-up person’s waiting, as its days would.',
  request: { params: code, ...body(z.strictObject({ email: z.string().max(400) })) },
  responses: { ...answers, ...readings, ...noRehearsal, 200: done(z.object({ ok: z.literal(true) })) },
})

export const endRehearsal = createRoute({
  method: 'post',
  path: '/rehearsals/{code}/end',
  summary: 'Ends a rehearsal; its people are gone.',
  request: { params: code },
  responses: { ...answers, 200: done(z.object({ ok: z.literal(true) })) },
})
