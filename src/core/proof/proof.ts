import { z } from 'zod'
import { stations } from '#core/station'
import { formIdSchema, proofIdSchema, spotIdSchema } from '#core/ids'
import { listSchema } from '#core/list'
import { mailSettingsSchema } from '#core/mail'
import { siteSchema } from '#core/site'
import { codeKindSchema, spotSchema } from '#core/spot'
import { caseIds } from './cases'
import { viewerIds } from './viewers'

/** In UTF-16 code units, of what was seen at one step. */
export const MAX_SEEN_LENGTH = 2_000
const text = (longest: number) => z.string().max(longest)

export const evidenceSchema = z.strictObject({
  kind: z.enum(['markup', 'request', 'response', 'member']),
  text: text(4_100),
})
export type Evidence = z.infer<typeof evidenceSchema>

/**
 * Where something is mended: a station of the form, the site's own page, the site's sheet, the receiver's settings, how a
 * list is handed on, or the connection that it goes by.
 */
export const mendPlaces = [...stations, 'page', 'site', 'settings', 'hand-over', 'connection'] as const
export type MendPlace = (typeof mendPlaces)[number]

export const failureSchema = z.strictObject({
  /** What went wrong, for programs: `as-text`, `own-page-missing`. */
  code: text(40),
  expected: text(2_000),
  happened: text(2_000),
  /** The likely cause, and what to do. */
  cause: text(600),
  mend: text(600),
  at: z.enum(mendPlaces),
  /** The spot whose code is to be pasted, where it is another than the one that was rehearsed. */
  spot: spotIdSchema.optional(),
  evidence: z.array(evidenceSchema).max(6),
})
export type Failure = z.infer<typeof failureSchema>

/** What a visitor of some kind saw of the page. */
export const proofLookSchema = z.strictObject({
  viewer: z.enum(viewerIds),
  /** A small JPEG of the window. */
  jpeg: z.base64().max(60_000),
  /** Where in it the form stands: shares of its width and height; null where it is not in sight. */
  field: z.strictObject({ left: z.number(), top: z.number(), width: z.number(), height: z.number() }).nullable(),
})
export type ProofLook = z.infer<typeof proofLookSchema>

export const stepSchema = z.strictObject({
  /** `page` is what comes before all cases. */
  case: z.enum(['page', ...caseIds]),
  station: z.enum(stations),
  /** What was looked at: “The answer to who joins”. */
  what: text(300),
  verdict: z.enum(['passed', 'failed', 'not-tried']),
  /** What was seen, or why it was not tried. */
  seen: text(MAX_SEEN_LENGTH),
  /** How long it took, in milliseconds. */
  ms: z.number().min(0),
  failure: failureSchema.optional(),
  /** Not tried because it is still on its way, and completed once it comes. */
  isAwaited: z.literal(true).optional(),
  look: proofLookSchema.optional(),
})
export type Step = z.infer<typeof stepSchema>

/** One rehearsal of one spot, as it went. Never changes. */
export const proofSchema = z.strictObject({
  id: proofIdSchema,
  spot: spotIdSchema,
  form: formIdSchema,
  /** The version that was published; 0 for none. */
  version: z.int().min(0),
  code: codeKindSchema.or(z.literal('page')),
  at: z.iso.datetime(),
  ms: z.number().min(0),
  /** Who began it: its owner, or the receiver by itself. */
  by: z.enum(['workshop', 'receiver']),
  /** `not-tried` where the page was looked at and nobody could try to sign up. */
  verdict: z.enum(['passed', 'failed', 'stopped', 'not-tried']),
  cases: z.array(z.enum(caseIds)),
  steps: z.array(stepSchema).max(300),
  /** As they were; what differs from it has changed since. */
  about: z.strictObject({
    spot: spotSchema,
    site: siteSchema.nullable(),
    list: listSchema.nullable(),
    /** The list's mail as it was sent; missing or null for none. */
    mail: mailSettingsSchema.nullable().optional(),
    /** Where visitors reached the receiver; missing in proofs from before it was kept. */
    receiver: text(300).optional(),
  }),
})
export type Proof = z.infer<typeof proofSchema>

/** Whether something of it is still on its way, and may be completed. */
export function isAwaiting({ steps }: Pick<Proof, 'steps'>): boolean {
  return steps.some(({ isAwaited }) => isAwaited === true)
}

/** The newest of a spot. */
export function latestProof(proofs: readonly Proof[], spot: string): Proof | null {
  return proofs
    .filter((proof) => proof.spot === spot)
    .reduce<Proof | null>((best, one) => (best === null || one.at > best.at ? one : best), null)
}

export interface ProofCounts {
  cases: number
  passed: number
  failed: number
  notTried: number
}

/** By case; one of which any step failed has failed. */
export function countsOf({ steps }: Pick<Proof, 'steps'>): ProofCounts {
  const byCase = new Map<string, Set<Step['verdict']>>()
  for (const step of steps) byCase.set(step.case, (byCase.get(step.case) ?? new Set()).add(step.verdict))
  const all = [...byCase.values()]
  const failed = all.filter((verdicts) => verdicts.has('failed')).length
  const notTried = all.filter((verdicts) => !verdicts.has('failed') && !verdicts.has('passed')).length
  return { cases: all.length, failed, notTried, passed: all.length - failed - notTried }
}

/** What one rehearsal shows that the one before it did not: cases whose outcome differs, in words. */
export function differencesBetween(before: Proof, now: Proof): string[] {
  const outcomes = ({ steps }: Proof) => {
    const byCase = new Map<string, { step: Step; verdict: Step['verdict'] }>()
    for (const step of steps) {
      const key = `${step.case} ${step.station} ${step.what}`
      const earlier = byCase.get(key)
      if (earlier === undefined || step.verdict === 'failed') byCase.set(key, { step, verdict: step.verdict })
    }
    return byCase
  }
  const [old, fresh] = [outcomes(before), outcomes(now)]
  return [...fresh].flatMap(([key, { step, verdict }]) => {
    const was = old.get(key)?.verdict
    return was === undefined || was === verdict
      ? []
      : [`${step.what}: ${verdictWords[was]} before, ${verdictWords[verdict]} now`]
  })
}

export const verdictWords: Record<Proof['verdict'], string> = {
  passed: 'passed',
  failed: 'failed',
  stopped: 'stopped',
  'not-tried': 'not tried',
}
