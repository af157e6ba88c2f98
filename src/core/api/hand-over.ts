import { z } from 'zod'
import { addressesIn, ofPeople } from '#core/privacy'
import { passphrase } from './keys'
import { CONTRADICTS, route } from './route'
import {
  connectionSchema,
  handOverSchema,
  keyProblem,
  meanings,
  requestNames,
  serviceFileSchema,
  theirKinds,
} from '#core/connection'
import { connectionIdSchema, handOverIdSchema, memberIdSchema } from '#core/ids'

/** What came of asking an outside service. */
export const outcomes = [...meanings, 'no-json', 'unreachable', 'cannot', 'key-not-sent'] as const
export type AskedOutcome = (typeof outcomes)[number]

const exchangeSchema = z.object({
  /** As it was sent, the key masked. */
  request: z.object({
    method: z.string(),
    address: z.string(),
    headers: z.record(z.string(), z.string()),
    body: z.string().nullable(),
  }),
  answer: z.object({ status: z.int(), headers: z.record(z.string(), z.string()), body: z.string() }).nullable(),
})

const apiWaySchema = z.strictObject({
  kind: z.literal('api'),
  service: serviceFileSchema,
  asked: z.record(z.string(), z.string().max(500)),
})

const keyText = z
  .string()
  .min(1)
  .max(4000)
  .superRefine((text, context) => {
    const message = keyProblem(text)
    if (message !== null) context.addIssue({ code: 'custom', message })
  })

/** Asks a service one thing: with the key given here, or the one that is kept for the connection. */
const askSchema = z.strictObject({
  connection: connectionIdSchema,
  way: apiWaySchema,
  key: keyText.optional(),
  what: z.enum(requestNames),
  values: z.record(
    z.string(),
    z.union([
      z.string(),
      z.array(z.string()),
      z.record(z.string(), z.string()),
      /** Several people, of `putMany`. */
      z.array(
        z.strictObject({ email: z.string(), fields: z.record(z.string(), z.string()), tags: z.array(z.string()) }),
      ),
    ]),
  ),
})
export type AskService = z.infer<typeof askSchema>

const theirListSchema = z.object({ id: z.string(), name: z.string(), count: z.number().nullable() })
const theirFieldSchema = z.object({
  key: z.string(),
  name: z.string(),
  kind: z.enum(theirKinds),
  isRequired: z.boolean(),
})
const theirMemberSchema = z.object({
  email: z.string(),
  id: z.string().nullable(),
  status: z.enum(['on', 'waiting', 'off', 'unknown']),
  statusWord: z.string().nullable(),
  list: z.string().nullable(),
  values: z.record(z.string(), z.string()).nullable(),
  tags: z.array(z.string()).nullable(),
})

const askedSchema = z.object({
  means: z.enum(outcomes),
  said: addressesIn(z.string()),
  /** Of `account`, what it is called there. */
  account: z.string().nullable(),
  lists: z.array(theirListSchema),
  fields: z.array(theirFieldSchema),
  member: ofPeople(theirMemberSchema.nullable()),
  exchange: exchangeSchema.nullable(),
})
export type AskedService = z.infer<typeof askedSchema>

/**
 * Null takes the key away. It goes to those origins alone that it was given for: those that are named, else those of the
 * connection as it stands.
 */
const keySchema = z.strictObject({
  key: keyText.nullable(),
  origins: z.array(z.url().max(300)).max(4).optional(),
})

const haltedConnectionSchema = z.object({ at: z.number(), means: z.string(), said: addressesIn(z.string()) })

const connectionStateSchema = z.object({
  id: connectionIdSchema,
  /** `unreadable` where it was sealed by another receiver's secret. */
  key: z.enum(['yes', 'no', 'unreadable']),
  /** Why nothing goes until its owner does something. */
  halted: haltedConnectionSchema.nullable(),
  /** Whether it failed so often in a row that it is left alone for a while. */
  isFailing: z.boolean(),
  /** Why what went last has to wait, and until when; null where nothing has. */
  putOff: z.object({ at: z.number(), said: addressesIn(z.string()), due: z.number() }).nullable(),
  /** Since when somebody waits and nobody has gone there, in milliseconds since 1970; null where nobody waits. */
  stillSince: z.number().nullable(),
  /** Where it can tell of who left there. */
  backAddress: z.string(),
})
export type ConnectionStanding = z.infer<typeof connectionStateSchema>

const namedFieldSchema = z.object({ key: z.string(), name: z.string() })
/** Without a name of the list where that is there no more; null where it is called as it was. */
const changedThereSchema = z.object({
  listName: z.string().nullish(),
  lost: z.array(namedFieldSchema),
  unfilled: z.array(namedFieldSchema),
})

const handOverStateSchema = z.object({
  id: handOverIdSchema,
  waiting: z.int(),
  there: z.int(),
  /** Accepted there, and they have yet to confirm there. */
  'to-confirm': z.int(),
  off: z.int(),
  refused: z.int(),
  /** When somebody was refused last, in milliseconds since 1970; null for nobody. */
  refusedAt: z.number().nullable(),
  /** What the service had otherwise than expected when it was looked last. */
  changed: changedThereSchema.nullable(),
})
export type HandOverStanding = z.infer<typeof handOverStateSchema>

const outsideSchema = z.object({
  connections: z.array(connectionStateSchema),
  handOvers: z.array(handOverStateSchema),
  /** Files that ship, of the pretend services. */
  services: z.array(serviceFileSchema),
  /** Where tables are written to. */
  folder: z.string(),
})
export type Outside = z.infer<typeof outsideSchema>

const handedSchema = z.object({
  handOver: handOverIdSchema,
  member: memberIdSchema,
  state: z.enum(['there', 'to-confirm', 'off', 'refused']),
  at: z.number(),
  said: addressesIn(z.string()),
})
export type HandedShown = z.infer<typeof handedSchema>

/** Empty for somebody who is here no more. */
const refusedSchema = handedSchema.extend({ email: ofPeople(z.string()) })
export type RefusedPerson = z.infer<typeof refusedSchema>

/** What became of a made-up person of a rehearsal at one place. */
export const handedOnSchema = z.object({
  name: z.string(),
  outcome: z.enum(['seen', 'handed', 'to-confirm', 'not-allowed', 'failed']),
  why: z.string(),
  said: addressesIn(z.string()),
})

/** One made-up person goes there, is looked up, and taken off again. */
const tryHandOverSchema = z.strictObject({
  connection: connectionSchema,
  handOver: handOverSchema,
  key: keyText.optional(),
  /** Stands in the made-up person's address: of one who went there before. */
  mark: z
    .string()
    .regex(/^[a-z\d]{8,60}$/)
    .optional(),
})
const triedStepSchema = z.object({
  step: z.enum(['put', 'seen', 'absent', 'off']),
  isDone: z.boolean(),
  /** `cannot` where it cannot be looked up, or taken off. */
  means: z.enum(outcomes),
  said: addressesIn(z.string()),
})
const triedHandOverSchema = z.object({ email: z.string(), steps: z.array(triedStepSchema) })
export type TriedHandOver = z.infer<typeof triedHandOverSchema>

const standings = ['only-here', 'only-there', 'differs', 'left-there', 'left-here'] as const
export type ComparedStanding = (typeof standings)[number]

const comparedPersonSchema = z.object({
  standing: z.enum(standings),
  /** Null for who is not known here. */
  member: memberIdSchema.nullable(),
  email: ofPeople(z.string()),
  differences: ofPeople(z.array(z.object({ part: z.string(), ours: z.string(), theirs: z.string() }))),
  theirs: ofPeople(theirMemberSchema.nullable()),
})
export type ComparedPerson = z.infer<typeof comparedPersonSchema>

const comparisonSchema = z.object({
  state: z.enum(['none', 'reading', 'done', 'failed']),
  at: z.number(),
  /** People of both lists that were looked at so far. */
  read: z.int(),
  same: z.int(),
  counts: z.record(z.enum(standings), z.int()),
  /** Some of each. */
  people: z.array(comparedPersonSchema),
  said: addressesIn(z.string()),
})
export type Comparison = z.infer<typeof comparisonSchema>

const connection = z.object({ id: connectionIdSchema })
const handOver = z.object({ id: handOverIdSchema })
const unknown = { 404: 'There is no such thing here, or not yet.' } as const

export const handOverRoutes = {
  readOutside: route({
    method: 'get',
    path: '/outside',
    needs: 'see',
    summary: 'How connections and hand-overs stand, and which service files ship.',
    answer: outsideSchema,
  }),
  keepKey: route({
    method: 'put',
    path: '/connections/{id}/key',
    needs: 'own',
    summary: 'Keeps the key of a connection, or takes it away. It is told to nobody.',
    params: connection,
    body: keySchema,
    answer: connectionStateSchema,
    refusals: unknown,
  }),
  goOnWith: route({
    method: 'post',
    path: '/connections/{id}/go-on',
    needs: 'edit',
    summary: 'Tries all at once that waits for a connection.',
    params: connection,
    answer: connectionStateSchema,
    refusals: unknown,
  }),
  saveKeys: route({
    method: 'post',
    path: '/connections/keys/save',
    needs: 'own',
    summary: 'All keys of connections, under a passphrase, for a file of the owner’s.',
    body: z.strictObject({ passphrase }),
    answer: z.object({ sealed: z.string() }),
  }),
  openKeys: route({
    method: 'post',
    path: '/connections/keys/open',
    needs: 'own',
    summary: 'Takes keys in that were saved under a passphrase, for connections that are there.',
    body: z.strictObject({ passphrase, sealed: z.string().max(1_000_000) }),
    answer: z.object({ count: z.int() }),
    refusals: CONTRADICTS,
  }),
  askConnection: route({
    method: 'post',
    path: '/connections/ask',
    needs: 'edit',
    summary: 'Asks a service one thing, with what was sent and answered: its key masked.',
    body: askSchema,
    answer: askedSchema,
  }),
  signInAt: route({
    method: 'post',
    path: '/connections/{id}/sign-in',
    needs: 'own',
    summary: 'Where the owner signs in at a service; its key is kept when the owner comes back.',
    params: connection,
    body: z.strictObject({ service: serviceFileSchema, asked: z.record(z.string(), z.string()) }),
    answer: z.object({ address: z.url() }),
  }),
  tryOut: route({
    method: 'post',
    path: '/hand-overs/try',
    needs: 'edit',
    summary: 'Sends one made-up person over, looks them up, and takes them off again.',
    body: tryHandOverSchema,
    answer: triedHandOverSchema,
  }),
  beginHandingOver: route({
    method: 'post',
    path: '/hand-overs/{id}/begin',
    needs: 'edit',
    summary: 'Hands over everybody who is on the list already.',
    params: handOver,
    answer: handOverStateSchema,
    refusals: unknown,
  }),
  handOverAgain: route({
    method: 'post',
    path: '/hand-overs/{id}/again',
    needs: 'edit',
    summary: 'Hands some over once more; without members, all who were refused.',
    params: handOver,
    body: z.strictObject({ members: z.array(memberIdSchema).max(1000).optional() }),
    answer: handOverStateSchema,
    refusals: unknown,
  }),
  listRefused: route({
    method: 'get',
    path: '/hand-overs/{id}/refused',
    needs: 'see-people',
    summary: 'Who was refused for good, in the service’s words; newest first, at most 200.',
    params: handOver,
    answer: z.object({ handed: z.array(refusedSchema) }),
    refusals: unknown,
  }),
  handedOf: route({
    method: 'get',
    path: '/members/{member}/handed',
    needs: 'see-people',
    summary: 'What of somebody went where, and what was answered.',
    params: z.object({ member: memberIdSchema }),
    answer: z.object({ handed: z.array(handedSchema) }),
  }),
  beginComparing: route({
    method: 'post',
    path: '/hand-overs/{id}/compare',
    needs: 'edit',
    summary: 'Begins to compare our list and the service’s.',
    params: handOver,
    answer: comparisonSchema,
    refusals: unknown,
  }),
  readComparison: route({
    method: 'get',
    path: '/hand-overs/{id}/compare',
    needs: 'see-people',
    summary: 'How far comparing is, and what it found.',
    params: handOver,
    answer: comparisonSchema,
  }),
  stopComparing: route({
    method: 'post',
    path: '/hand-overs/{id}/compare/stop',
    needs: 'edit',
    summary: 'Ends comparing, and forgets what it found.',
    params: handOver,
    answer: comparisonSchema,
  }),
  mend: route({
    method: 'post',
    path: '/hand-overs/{id}/mend',
    needs: 'edit',
    summary: 'Hands those over once more whom comparing found, so that they are there as here.',
    params: handOver,
    body: z.strictObject({ standing: z.enum(standings) }),
    answer: z.object({ count: z.int() }),
    refusals: unknown,
  }),
  foundPeople: route({
    method: 'get',
    path: '/hand-overs/{id}/found/{standing}',
    needs: 'see-people',
    summary: 'All whom comparing found with a standing.',
    params: handOver.extend({ standing: z.enum(standings) }),
    answer: z.object({ people: comparisonSchema.shape.people }),
  }),
}
