import { z } from 'zod'
import {
  arrivalIdSchema,
  batchIdSchema,
  commandIdSchema,
  formIdSchema,
  listIdSchema,
  memberIdSchema,
  spotIdSchema,
} from '#core/ids'
import {
  batchCountsSchema,
  batchPurposeSchema,
  broughtStatuses,
  MOST_CHANGED,
  memberChangeSchema,
  MOST_NAMED,
  passedOverSchema,
} from './batch'

const email = z.strictObject({ typed: z.string(), compared: z.string() })
const values = z.record(z.string(), z.string())

/**
 * `n` is the entry's position in the one order of the journal, from 1, without gaps. `at` is the receiver's clock. `by` names
 * who did it, where that is known: a key of the owner's, later a person; missing for visitors and for the receiver itself.
 */
const position = { n: z.int().min(1), at: z.iso.datetime(), by: z.string().max(100).optional() }

/**
 * What an entry tells of a person. Erasing somebody takes it away whole, with its salt: what stays is `commitment`, from
 * which nobody can guess it back, and which keeps the marks of the journal true; see mark.ts.
 *
 * The receiver gives the salt when it appends an entry; until then, and in files from before there were any, it is missing.
 */
const personalPart = <Shape extends z.ZodRawShape>(shape: Shape) => ({
  personal: z.strictObject({ salt: z.string().optional(), ...shape }).nullable(),
  /** Where the personal part was erased: what it was committed to by. */
  commitment: z.string().optional(),
})

const consentSchema = z.strictObject({ field: z.string(), wording: z.string() })
/** One box that was ticked, in the words that stood beside it. */
export type Consent = z.infer<typeof consentSchema>

export const cameFromSchema = z.strictObject({
  /** What the owner marked the spot or the link with. */
  source: z.string().optional(),
  /** The page that led to this one. */
  referrer: z.string().optional(),
  /** The campaign's words in the page's address. */
  campaign: z.string().optional(),
})
export type CameFrom = z.infer<typeof cameFromSchema>

/** One sign-up as the receiver got it, with its verdict. */
export const arrivalSchema = z.strictObject({
  ...position,
  kind: z.literal('arrival'),
  id: arrivalIdSchema,
  spot: spotIdSchema,
  form: formIdSchema,
  /** The version the visitor saw. */
  version: z.int(),
  list: listIdSchema,
  verdict: z.enum(['joined', 'confirm-first', 'already-on-list', 'already-waiting', 'bot']),
  /** Whether a view of the form was counted with it: rates are of these alone, and trials count no others. */
  viewed: z.literal(true).optional(),
  /** Why it was held back, for the verdict `bot`; missing for the trap. */
  stopped: z.enum(['too-fast', 'throw-away']).optional(),
  /** The member joined or already there; null for a bot. */
  member: memberIdSchema.nullable(),
  ...personalPart({
    /** Null only for a bot that left no readable address. */
    email: email.nullable(),
    values,
    /** Topics chosen. Missing in entries from before there were any, as are `consents`. */
    tags: z.array(z.string()).optional(),
    consents: z.array(consentSchema).optional(),
    /** What brought the visitor there, as far as it was told; missing where nothing was. */
    cameFrom: cameFromSchema.optional(),
    /** The network that it came from, the rest of the address cut off. Missing in entries from before it was kept. */
    network: z.string().optional(),
    /** Why this one has to confirm by mail, or need not: the country that decided, empty for unknown. Missing where the list does not ask by region. */
    region: z.string().optional(),
    /** The browser's time zone, so that a letter can come at an hour of the reader's day. Missing where no script told it. */
    zone: z.string().optional(),
    /** By key of the field: what the answer behind a mail's link passes on and no column keeps; missing for nothing. */
    passed: values.optional(),
    /** The page as the browser reported it, completed by the spot's own page; empty when nothing is known. */
    page: z.string(),
  }),
})
export type Arrival = z.infer<typeof arrivalSchema>
export type Verdict = Arrival['verdict']

/** What keeps a message from the owner's inbox until the owner lets it through. `alike`: the same text came too often; `flood`: too many at once. */
const heldReasons = ['trap', 'too-fast', 'throw-away', 'alike', 'flood'] as const
export type HeldReason = (typeof heldReasons)[number]

/** What somebody wrote to the owner by a form. It changes nobody: who joins as well does so by the sign-up that follows. */
export const sentMessageSchema = z.strictObject({
  ...position,
  kind: z.literal('message'),
  id: arrivalIdSchema,
  spot: spotIdSchema,
  form: formIdSchema,
  /** The version the visitor saw. */
  version: z.int(),
  list: listIdSchema,
  member: z.null(),
  /** Whether the box beside it was ticked. */
  joins: z.boolean(),
  /** Missing for one that went to the owner. */
  held: z.enum(heldReasons).optional(),
  ...personalPart({
    /** Null only for a bot that left no readable address. */
    email: email.nullable(),
    subject: z.string(),
    text: z.string(),
    /** What else was asked and answered, with the words that it was asked by. */
    answers: z.array(z.strictObject({ label: z.string(), answer: z.string() })),
    cameFrom: cameFromSchema.optional(),
    network: z.string().optional(),
    page: z.string(),
  }),
})
export type SentMessage = z.infer<typeof sentMessageSchema>

const byOwner = { ...position, command: commandIdSchema, list: listIdSchema, member: memberIdSchema }

const byItself = { ...position, id: arrivalIdSchema, list: listIdSchema, member: memberIdSchema }

/** Entries of a batch: of one person, of many, or of its beginning and end. `member` is null for what is not one person's. */
const inBatch = { ...position, id: arrivalIdSchema, batch: batchIdSchema, list: listIdSchema }
const ofMany = { ...inBatch, member: z.null() }

const ofMessages = { ...position, id: arrivalIdSchema, list: listIdSchema, member: z.null() }
/** In one entry. */
export const MOST_MESSAGES_ERASED = 500

/** What happened to people. Append-only; see `core/list` for what it adds up to. */
export const entrySchema = z.discriminatedUnion('kind', [
  arrivalSchema,
  z.strictObject({
    ...byOwner,
    kind: z.literal('member-added'),
    ...personalPart({ email, values, consent: z.string().optional() }),
  }),
  /** Missing tags are those from before: only who changed them says what they are. */
  z.strictObject({
    ...byOwner,
    kind: z.literal('member-edited'),
    ...personalPart({ email, values, tags: z.array(z.string()).optional() }),
  }),
  /**
   * Somebody who just signed up put a slip in their address right: who they are stays, and what is theirs. `verdict` is what
   * they were told; `was` the address before.
   */
  z.strictObject({
    ...byItself,
    kind: z.literal('member-corrected'),
    verdict: z.enum(['joined', 'confirm-first']),
    ...personalPart({ email, was: email }),
  }),
  /** Something that the owner wrote down about somebody; it changes nothing of them. */
  z.strictObject({ ...byOwner, kind: z.literal('member-noted'), ...personalPart({ text: z.string() }) }),
  /** `isSlip`: by themselves, whose right address is on the list already. */
  z.strictObject({ ...byOwner, kind: z.literal('member-removed'), isSlip: z.literal(true).optional() }),
  z.strictObject({
    ...byOwner,
    kind: z.literal('member-restored'),
    status: z.enum(['waiting', 'confirmed', 'left', 'bounced']),
    /** Whether their days of waiting begin with this. Missing in entries from before it was told. */
    waitsAnew: z.boolean().optional(),
  }),
  /** The link in the confirmation mail was followed, and the button there pressed. */
  z.strictObject({ ...byItself, kind: z.literal('member-confirmed') }),
  /** `one-click` is the post of RFC 8058, which a mail program sends; `service` tells that they left where they were handed to. */
  z.strictObject({ ...byItself, kind: z.literal('member-left'), by: z.enum(['page', 'one-click', 'service']) }),
  /** Left, and came back by one press. */
  z.strictObject({ ...byItself, kind: z.literal('member-returned') }),
  /** Never confirmed within the list's days. */
  z.strictObject({ ...byItself, kind: z.literal('member-expired') }),
  /** Mail to the address is refused for good; `reason` in the refusing server's words, which may name the address. */
  z.strictObject({ ...byItself, kind: z.literal('member-bounced'), ...personalPart({ reason: z.string() }) }),
  z.strictObject({ ...ofMany, kind: z.literal('batch-begun'), purpose: batchPurposeSchema }),
  z.strictObject({
    ...ofMany,
    kind: z.literal('batch-ended'),
    /** Whether the owner stopped it before all was done. */
    isStopped: z.boolean(),
    counts: batchCountsSchema,
    /** Some of those who were left as they are. */
    passedOver: z.array(passedOverSchema).max(MOST_NAMED),
  }),
  /** What somebody is from then on: brought in, copied from another list, or put back to what they were. */
  z.strictObject({
    ...inBatch,
    kind: z.literal('member-written'),
    member: memberIdSchema,
    status: z.enum(broughtStatuses),
    joinedAt: z.iso.datetime(),
    ...personalPart({ email, values, tags: z.array(z.string()) }),
  }),
  /** The same change for many. */
  z.strictObject({
    ...ofMany,
    kind: z.literal('members-changed'),
    members: z.array(memberIdSchema).min(1).max(MOST_CHANGED),
    /** Erased with the last of them. */
    ...personalPart({ change: memberChangeSchema }),
  }),
  sentMessageSchema,
  /** Held, and let through by the owner. */
  z.strictObject({ ...ofMessages, kind: z.literal('message-released'), message: arrivalIdSchema }),
  /** Their texts and whose they were are gone. */
  z.strictObject({
    ...ofMessages,
    kind: z.literal('messages-erased'),
    messages: z.array(arrivalIdSchema).min(1).max(MOST_MESSAGES_ERASED),
    why: z.enum(['days-over', 'by-owner']),
  }),
  /** They are forgotten, on whatever lists; `entries` are the numbers of those whose personal parts went with them. */
  z.strictObject({
    ...ofMany,
    kind: z.literal('members-erased'),
    members: z.array(memberIdSchema),
    entries: z.array(z.int()),
    /** Keyed hashes of their addresses, so that no file brings them back by accident. */
    hashes: z.array(z.string()),
  }),
])
export type Entry = z.infer<typeof entrySchema>

/** The address that an entry gives somebody; null for one that gives none, or whose personal part was erased. */
export function emailIn(entry: NewEntry): { typed: string; compared: string } | null {
  return 'personal' in entry && entry.personal !== null && 'email' in entry.personal ? entry.personal.email : null
}

/** Whether an entry tells how somebody agreed to get mail: by signing up, as the owner stated, or by a file. */
export function isReceipt(entry: NewEntry): boolean {
  return (
    (entry.kind === 'arrival' && (entry.verdict === 'joined' || entry.verdict === 'confirm-first')) ||
    entry.kind === 'member-added' ||
    entry.kind === 'member-written'
  )
}

/** Those that this version knows. A newer receiver may have more. */
export const entryKinds: readonly string[] = entrySchema.options.map(({ shape }) => shape.kind.value)

type WithoutNumber<T> = T extends unknown ? Omit<T, 'n'> : never
/** An entry before the store has given it its number. */
export type NewEntry = WithoutNumber<Entry>
