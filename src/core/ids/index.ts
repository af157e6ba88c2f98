import { z } from 'zod'

/**
 * Identifiers of everything that has one. They stand in public addresses and in pasted code, so they are
 * short, lower-case and need no escaping anywhere. Branded: one kind can never be passed for another.
 */
const id = () => z.string().regex(/^[a-z0-9]{4,32}$/, 'must be 4 to 32 small letters and digits')

export const siteIdSchema = id().brand<'SiteId'>()
export const listIdSchema = id().brand<'ListId'>()
export const formIdSchema = id().brand<'FormId'>()
export const spotIdSchema = id().brand<'SpotId'>()
export const memberIdSchema = id().brand<'MemberId'>()
export const arrivalIdSchema = id().brand<'ArrivalId'>()
export const commandIdSchema = id().brand<'CommandId'>()
/** Many people changed as one. */
export const batchIdSchema = id().brand<'BatchId'>()
export const themeIdSchema = id().brand<'ThemeId'>()
export const pictureIdSchema = id().brand<'PictureId'>()
export const proofIdSchema = id().brand<'ProofId'>()
/** An outside service that lists hand their people to. */
export const connectionIdSchema = id().brand<'ConnectionId'>()
/** One list handed on by one connection. */
export const handOverIdSchema = id().brand<'HandOverId'>()
/** Wordings that are tried beside each other. */
export const trialIdSchema = id().brand<'TrialId'>()
/** What its owner writes to a list. */
export const letterIdSchema = id().brand<'LetterId'>()
/** One going out of a letter, to all whom it is for. */
export const sendingIdSchema = id().brand<'SendingId'>()
/** Letters by days since joining. */
export const seriesIdSchema = id().brand<'SeriesId'>()
/** A site's feed that letters are made from. */
export const feedIdSchema = id().brand<'FeedId'>()
/** One history of what happened to people; a copy of a journal keeps its id, a new one gets its own. */
export const journalIdSchema = id().brand<'JournalId'>()

export type SiteId = z.infer<typeof siteIdSchema>
export type ListId = z.infer<typeof listIdSchema>
export type FormId = z.infer<typeof formIdSchema>
export type SpotId = z.infer<typeof spotIdSchema>
export type MemberId = z.infer<typeof memberIdSchema>
export type ArrivalId = z.infer<typeof arrivalIdSchema>
export type CommandId = z.infer<typeof commandIdSchema>
export type BatchId = z.infer<typeof batchIdSchema>
export type ThemeId = z.infer<typeof themeIdSchema>
export type PictureId = z.infer<typeof pictureIdSchema>
export type ProofId = z.infer<typeof proofIdSchema>
export type ConnectionId = z.infer<typeof connectionIdSchema>
export type HandOverId = z.infer<typeof handOverIdSchema>
export type TrialId = z.infer<typeof trialIdSchema>
export type LetterId = z.infer<typeof letterIdSchema>
export type SendingId = z.infer<typeof sendingIdSchema>
export type SeriesId = z.infer<typeof seriesIdSchema>
export type FeedId = z.infer<typeof feedIdSchema>
export type JournalId = z.infer<typeof journalIdSchema>

/** Without vowels, so that no word appears by chance, and without look-alikes (0/o, 1/l). */
const ALPHABET = 'bcdfghjkmnpqrstvwxz23456789'

/**
 * Spells a new id from random bytes that the caller drew (core has no randomness of its own).
 * Ten bytes give some 47 bits; bytes are folded with a slight bias that does not matter for names.
 */
export function spellId(randomBytes: Uint8Array): string {
  let id = ''
  for (const byte of randomBytes) id += ALPHABET[byte % ALPHABET.length]
  return id
}

const SORTED = [...ALPHABET].sort().join('')
/** 27 to the ninth milliseconds last until the year 2211. */
const TIME_LETTERS = 9

/**
 * Spells a time before the random letters, so that later ids sort after earlier ones: an index over them grows at its
 * end. Only for what may tell when it was made.
 *
 * @param at milliseconds since 1970
 */
export function spellOrderedId(at: number, randomBytes: Uint8Array): string {
  let time = ''
  for (let rest = at; time.length < TIME_LETTERS; rest = Math.floor(rest / SORTED.length))
    time = SORTED[rest % SORTED.length] + time
  return time + spellId(randomBytes)
}
