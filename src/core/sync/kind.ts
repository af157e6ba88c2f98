import type { z } from 'zod'

/** What an object needs to be there, with the name of the part that refers to it. */
export interface Reference {
  part: string
  kind: string
  key: string
}

/**
 * Everything that has to be known of one kind of object that the owner makes: its table in the workshop's database, its
 * part of the workspace file, what travels to the receiver and what the receiver checks all follow from it.
 */
export interface ObjectKind<Table extends string, Body, Stored = Body, Part extends keyof Body & string = never> {
  /** The table in the workshop's database, and the part of the workspace file. */
  table: Table
  schema: z.ZodType<Body>
  /** The property that names one object among those of its kind. Default: `id`. */
  identity?: keyof Body & string
  /** Of a kind whose objects several properties name, or of which there is only one. */
  naming?: {
    keyOf(body: Body): string
    /** As IndexedDB spells a path: `[form+number]`; empty where the key lies outside the object. */
    keyPath: string
    primaryKeyOf(key: string): unknown
  }
  /** Properties that the workshop finds objects by. */
  indexes?: readonly (keyof Body & string)[]
  references?(body: Body): Reference[]
  /** A part that becomes null when the object of this kind that it names is taken away. */
  loose?: { part: keyof Body & string; kind: string }
  /** Why it cannot be taken in although it has the right parts; null where it can. */
  objection?(body: Body): string | null
  /**
   * Never changes once it is made. Where it is kept for ever (receipts and code on pages refer to it), nobody takes it
   * away; of others each side keeps the newest.
   */
  immutable?: { isKeptForEver: boolean; whenChanged: string | null }
  /** Of those alike in one property only the newest so many are kept. */
  newest?: { by: keyof Body & string; count: number }
  /** What both changes add up to, where merging part by part says less. */
  merge?(base: Body | null, here: Body, there: Body): Body
  /** Where more is stored than what travels as a change, such as the bytes of a picture. */
  stored?: { schema: z.ZodType<Stored>; bodyOf(stored: Stored): Body }
  /** Its properties stand in the workspace file by themselves, since there is only one. */
  isSpreadInFile?: true
  /** What publishing makes of an object, of which kind. A kind of its own is numbered, and found by an index of this kind's name. */
  publication?: { kind: string; of(body: Body, facts: { number: number; at: string }): unknown }
  /** What is drafted with undo, kept at each change and published by its owner. The rest changes at once. */
  drafted?: readonly Part[]
}

/** Says what a kind is; infers its types. */
export function objectKind<
  const Table extends string,
  Body,
  Stored = Body,
  const Part extends keyof Body & string = never,
>(kind: ObjectKind<Table, Body, Stored, Part>): ObjectKind<Table, Body, Stored, Part> {
  return kind
}
