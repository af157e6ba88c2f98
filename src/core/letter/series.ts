import { z } from 'zod'
import { listIdSchema, seriesIdSchema } from '#core/ids'
import { dayIn, momentIn } from '#core/zone'
import { harmlessText } from '#core/text'
import { type LetterBody, letterBodySchema } from './letter'
import { timeSchema, zoneSchema } from './when'

const DAY_MS = 86_400_000

export const stepSchema = z.strictObject({
  id: z.string().regex(/^[a-z0-9]{2,16}$/),
  /** Since joining. 0 is the day of joining itself. */
  days: z.int().min(0).max(365),
  /** Hour of the day, by the reader's clocks. On the day of joining, at once where it is over. */
  time: timeSchema,
  body: letterBodySchema,
})
export type SeriesStep = z.infer<typeof stepSchema>

export const seriesContentSchema = z.strictObject({
  name: harmlessText.max(200),
  list: listIdSchema,
  /** Only for whoever has this tag; empty for all of the list. */
  tag: harmlessText.max(200),
  /** Whether those who are there already begin as well, on the day on which it is begun. */
  includesThoseThere: z.boolean(),
  /** Of readers whose zone is not known. */
  zone: zoneSchema,
  steps: z.array(stepSchema).max(10),
})
export type SeriesContent = z.infer<typeof seriesContentSchema>

export const seriesSchema = z.strictObject({
  id: seriesIdSchema,
  createdAt: z.iso.datetime(),
  draft: seriesContentSchema,
  /** As it goes out; null before it is begun. */
  published: seriesContentSchema.nullable(),
  /** Whether nobody gets anything meanwhile. Days go on. */
  isPaused: z.boolean(),
})
export type Series = z.infer<typeof seriesSchema>

/** Where somebody is in a series: the days and the hour of the step that they got last; null before the first. */
export type SeriesPlace = Pick<SeriesStep, 'days' | 'time'> | null

/** Steps in the order in which they go. */
export function inOrder(steps: readonly SeriesStep[]): SeriesStep[] {
  return [...steps].sort((one, other) => one.days - other.days || one.time.localeCompare(other.time))
}

/**
 * The step that somebody gets next, and when: the first after the place where they are. Steps that were put in before it
 * meanwhile are not for them.
 *
 * @param beganAt when they joined, or the series began for them, in milliseconds since 1970
 */
export function nextStep(
  { steps }: Pick<SeriesContent, 'steps'>,
  place: SeriesPlace,
  beganAt: number,
  zone: string,
): { step: SeriesStep; due: number } | null {
  const step = inOrder(steps).find(
    (one) => place === null || one.days > place.days || (one.days === place.days && one.time > place.time),
  )
  if (step === undefined) return null
  const day = new Date(Date.parse(`${dayIn(zone, beganAt)}T00:00:00Z`) + step.days * DAY_MS).toISOString().slice(0, 10)
  return { step, due: Math.max(beganAt, momentIn(zone, day, step.time)) }
}

/** What keeps a series from being begun; null where nothing does. */
export function seriesProblem({ name, steps }: SeriesContent): string | null {
  if (name.trim() === '') return 'The series has no name.'
  if (steps.length === 0) return 'The series has no letter yet.'
  const empty = inOrder(steps).findIndex(({ body }) => !saysSomething(body))
  return empty < 0 ? null : `Letter ${empty + 1} of the series has no subject or no words.`
}

function saysSomething({ subject, blocks }: LetterBody): boolean {
  const hasSubject = subject.some((block) => block.kind === 'paragraph' && block.spans.length > 0)
  return hasSubject && blocks.length > 0
}
