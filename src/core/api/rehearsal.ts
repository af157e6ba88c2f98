import { z } from 'zod'
import { arrivalSchema } from '#core/journal'
import { memberSchema } from '#core/list'
import type { OnItsWay, ReceivedMail } from '#core/proof'
import type { Browsed, Visited } from '#core/rehearsal'

/** A page as a visitor's browser gets it. */
export const fetchedPageSchema = z.object({
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
export type FetchedPage = z.infer<typeof fetchedPageSchema>

export const startedRehearsalSchema = z.object({
  code: z.string(),
  hasBrowser: z.boolean(),
  hasFirefox: z.boolean().optional(),
})
export type StartedRehearsal = z.infer<typeof startedRehearsalSchema>

/** What a browser saw; described no further, for it says much. */
export const visitedSchema = z.object({ isTried: z.boolean() }).loose() as unknown as z.ZodType<Browsed<Visited>>

export const seenMemberSchema = z.object({ member: memberSchema.nullable(), arrivals: z.array(arrivalSchema) })

export const rehearsalMailsSchema = z.object({
  received: z.array(z.unknown() as z.ZodType<ReceivedMail>),
  queued: z.array(z.unknown() as z.ZodType<OnItsWay>),
})
export type RehearsalMails = z.infer<typeof rehearsalMailsSchema>

/** What a link of ours hands over. */
export const downloadedSchema = z.object({
  status: z.int(),
  address: z.string(),
  size: z.int(),
  sha256: z.string(),
})
export type Downloaded = z.infer<typeof downloadedSchema>
