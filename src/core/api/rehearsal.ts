import { z } from 'zod'
import { spotIdSchema } from '#core/ids'
import { viewerIds } from '#core/proof'
import { handedOnSchema } from './hand-over'
import { route } from './route'
import { arrivalSchema, sentMessageSchema } from '#core/journal'
import { memberSchema } from '#core/list'
import type { OnItsWay, ReceivedMail } from '#core/proof'
import type { Browsed, MailRead, Visited } from '#core/rehearsal'

/** A page as a visitor's browser gets it. */
const fetchedPageSchema = z.object({
  status: z.int(),
  /** Where it was found, after redirects. */
  address: z.string(),
  html: z.string(),
  encoding: z.string(),
  policies: z.array(z.string()),
  frameOptions: z.string(),
  age: z.int().nullable(),
  location: z.string().nullable(),
})

const startedRehearsalSchema = z.object({
  code: z.string(),
  hasBrowser: z.boolean(),
  hasFirefox: z.boolean().optional(),
})

/** What a browser saw; described no further, for it says much. */
const visitedSchema = z.object({ isTried: z.boolean() }).loose() as unknown as z.ZodType<Browsed<Visited>>

const mailReadSchema = z.object({ isTried: z.boolean() }).loose() as unknown as z.ZodType<Browsed<MailRead>>

const seenMemberSchema = z.object({
  member: memberSchema.nullable(),
  arrivals: z.array(arrivalSchema),
  messages: z.array(sentMessageSchema),
})

const rehearsalMailsSchema = z.object({
  received: z.array(z.unknown() as z.ZodType<ReceivedMail>),
  queued: z.array(z.unknown() as z.ZodType<OnItsWay>),
})

/** What a link of ours hands over. */
const downloadedSchema = z.object({
  status: z.int(),
  address: z.string(),
  size: z.int(),
  sha256: z.string(),
})

const code = z.object({ code: z.string() })
const as = z.enum(['paused', 'retired']).optional()
const noRehearsal = { 404: 'No rehearsal with this code goes on.' } as const

const fill = z.strictObject({ name: z.string().max(200), value: z.string().max(20_000).nullable() })

export const rehearsalsRoutes = {
  startRehearsal: route({
    method: 'post',
    path: '/rehearsals',
    needs: 'edit',
    summary:
      'Begins a rehearsal: its one-time code marks made-up people, who live in a space of their own until it ends: at the latest after five minutes, by hand after half an hour. It counts at one spot.',
    body: z.strictObject({ spot: spotIdSchema, byHand: z.boolean().optional() }),
    answer: startedRehearsalSchema,
    refusals: { 429: 'Too many rehearsals go on at once.' },
  }),
  visitForRehearsal: route({
    method: 'post',
    path: '/rehearsals/{code}/visit',
    needs: 'edit',
    summary:
      'Opens a page in the receiver’s browser, with an empty profile, and uses the form on it as a hand would. `isTried` says whether that could be done, `reason` why not.',
    params: code,
    body: z.strictObject({
      address: z.string().max(2000),
      spot: spotIdSchema,
      action: z.string().max(2000),
      pages: z.array(z.string().max(2000)).max(4).readonly(),
      viewer: z.enum(viewerIds),
      words: z.array(z.string().max(200)).max(8).readonly(),
      comesByItself: z.boolean(),
      fills: z.array(fill).max(500).readonly().nullable(),
      trap: z.string().max(200),
      presses: z.union([z.literal(0), z.literal(1), z.literal(2)]),
      isSlow: z.boolean().optional(),
      wasLookedAt: z.boolean().optional(),
      sweeps: z.boolean().optional(),
      wording: z.int().min(1).optional(),
      takesGift: z.boolean().optional(),
    }),
    answer: visitedSchema,
    refusals: noRehearsal,
  }),
  readForRehearsal: route({
    method: 'post',
    path: '/rehearsals/{code}/read',
    needs: 'edit',
    summary:
      'Opens a mail in the receiver’s browser, with an empty profile, and presses its link, which leads to this receiver, and what is wished on the pages that it leads to. `isTried` says whether that could be done, `reason` why not.',
    params: code,
    body: z.strictObject({
      html: z.string().max(500_000),
      text: z.string().max(200_000),
      link: z.string().max(2000),
      presses: z
        .array(z.enum(['button', 'gift']))
        .max(4)
        .readonly(),
      receiver: z.string().max(2000),
    }),
    answer: mailReadSchema,
    refusals: noRehearsal,
  }),
  fetchForRehearsal: route({
    method: 'post',
    path: '/rehearsals/{code}/fetch',
    needs: 'edit',
    summary: 'Fetches a page as a visitor would. From this receiver, `as` has its spot held for paused or retired.',
    params: code,
    body: z.strictObject({ address: z.string().max(2000), as }),
    answer: fetchedPageSchema,
    refusals: { ...noRehearsal, 502: 'The page could not be fetched; `detail` says why.' },
  }),
  sendForRehearsal: route({
    method: 'post',
    path: '/rehearsals/{code}/send',
    needs: 'edit',
    summary: 'Posts a form as a browser would, to this receiver’s own actions alone, and follows where it leads.',
    params: code,
    body: z.strictObject({
      address: z.string().max(2000),
      contentType: z
        .string()
        .max(200)
        .regex(/^[\x20-\x7e]*$/),
      body: z.base64().max(200_000),
      as,
    }),
    answer: fetchedPageSchema,
    refusals: {
      ...noRehearsal,
      403: 'The form sends to somewhere else than this receiver.',
      502: 'No answer came; `detail` says why.',
    },
  }),
  lookUpForRehearsal: route({
    method: 'get',
    path: '/rehearsals/{code}/member',
    needs: 'edit',
    summary: 'What is known of a made-up person: the member as the journal adds up to, and every sign-up.',
    params: code,
    query: z.object({ email: z.string().max(400) }),
    answer: seenMemberSchema,
    refusals: noRehearsal,
  }),
  handOnForRehearsal: route({
    method: 'post',
    path: '/rehearsals/{code}/hand-on',
    needs: 'edit',
    summary: 'Hands a made-up person on as their list is handed on, looks them up there, and takes them off again.',
    params: code,
    body: z.object({ email: z.string().max(400) }),
    answer: z.object({ handed: z.array(handedOnSchema) }),
    refusals: noRehearsal,
  }),
  mailsForRehearsal: route({
    method: 'get',
    path: '/rehearsals/{code}/mails',
    needs: 'edit',
    summary: 'Mail to a made-up person as it came, read by a parser, and what of it is still on its way.',
    params: code,
    query: z.object({ email: z.string().max(400) }),
    answer: rehearsalMailsSchema,
    refusals: noRehearsal,
  }),
  downloadForRehearsal: route({
    method: 'post',
    path: '/rehearsals/{code}/download',
    needs: 'edit',
    summary: 'Fetches a gift by its link: how large it is, and its SHA-256.',
    params: code,
    body: z.strictObject({ address: z.string().max(2000) }),
    answer: downloadedSchema,
    refusals: { ...noRehearsal, 502: 'No answer came; `detail` says why.' },
  }),
  expireForRehearsal: route({
    method: 'post',
    path: '/rehearsals/{code}/expire',
    needs: 'edit',
    summary: 'Ends a made-up person’s waiting, as its days would.',
    params: code,
    body: z.strictObject({ email: z.string().max(400) }),
    answer: z.object({ ok: z.literal(true) }),
    refusals: noRehearsal,
  }),
  endRehearsal: route({
    method: 'post',
    path: '/rehearsals/{code}/end',
    needs: 'edit',
    summary: 'Ends a rehearsal; its people are gone.',
    params: code,
    answer: z.object({ ok: z.literal(true) }),
  }),
}

export const pagesRoutes = {
  fetchOnePage: route({
    method: 'post',
    path: '/page',
    needs: 'edit',
    summary:
      'Fetches a page of a site as a visitor’s browser gets it, to look for code in it. Nothing of a private network; at most 5 redirects, 5 s and 3 MB.',
    body: z.strictObject({ address: z.string().max(2000) }),
    answer: fetchedPageSchema,
    refusals: { 502: 'The page could not be fetched; `detail` says why.' },
  }),
}
