import type { z } from 'zod'
import type { ObjectKind, Reference } from './kind'
import { connection } from './kind-connection'
import { feed } from './kind-feed'
import { form } from './kind-form'
import { handOver } from './kind-hand-over'
import { letter } from './kind-letter'
import { list } from './kind-list'
import { mail } from './kind-mail'
import { picture } from './kind-picture'
import { preferences } from './kind-preferences'
import { proof } from './kind-proof'
import { series } from './kind-series'
import { site } from './kind-site'
import { spot } from './kind-spot'
import { theme } from './kind-theme'
import { trial } from './kind-trial'
import { version } from './kind-version'

/**
 * Every kind of object that the owner makes, in the order in which they refer to each other: what comes first is there
 * before it is needed. A new kind is one file beside this one, and one word here.
 */
const registry = {
  preferences,
  site,
  list,
  mail,
  connection,
  handOver,
  theme,
  picture,
  form,
  version,
  spot,
  trial,
  proof,
  letter,
  series,
  feed,
}

type Registry = typeof registry
export type Kind = keyof Registry
/** What travels of an object of each kind. */
export type Bodies = { [One in Kind]: z.infer<Registry[One]['schema']> }
export type Body = Bodies[Kind]
/** What the workshop and the workspace file keep of it. */
export type Stored = {
  [One in Kind]: Registry[One] extends ObjectKind<infer _Table, infer _Body, infer Kept, infer _Part> ? Kept : never
}
/** The parts of each kind that are drafted. */
export type Drafted<One extends Kind> = Pick<
  Bodies[One],
  NonNullable<Registry[One]['drafted']>[number] & keyof Bodies[One]
>
export type Table<One extends Kind = Kind> = Registry[One]['table']
/** By the name of its table, what is kept in it. */
export type Tables = { [One in Kind as Table<One>]: Stored[One] }

export const kinds = Object.keys(registry) as readonly Kind[]

/** What is known of a kind, for whoever handles objects of any. */
export function kindOf(kind: Kind): ObjectKind<Table, Body, unknown, never> {
  return registry[kind] as unknown as ObjectKind<Table, Body, unknown, never>
}

/** What one object is found by among those of its kind. */
export function keyOf(kind: Kind, body: Body): string {
  const { naming, identity } = kindOf(kind)
  return naming?.keyOf(body) ?? (body as unknown as Record<string, string>)[identity ?? 'id']!
}

/** Names one object among those of all kinds: `form 4kdm…`. */
export function objectId(kind: Kind, key: string): string {
  return `${kind} ${key}`
}

/** What an object needs to be there. */
export function referencesOf(kind: Kind, body: Body): (Reference & { kind: Kind })[] {
  return (kindOf(kind).references?.(body) ?? []) as (Reference & { kind: Kind })[]
}

export function isImmutable(kind: Kind): boolean {
  return kindOf(kind).immutable !== undefined
}

/** The body of what is stored. */
export function bodyOf(kind: Kind, stored: unknown): Body {
  return kindOf(kind).stored?.bodyOf(stored) ?? (stored as Body)
}

/** A value as a body of its kind, or what is wrong with it, with its place. */
export function readBody<One extends Kind>(
  kind: One,
  value: unknown,
): { ok: true; body: Bodies[One] } | { ok: false; message: string } {
  const parsed = kindOf(kind).schema.safeParse(value)
  if (!parsed.success) {
    const [issue] = parsed.error.issues
    return { ok: false, message: `${issue?.path.join('.') ?? ''} ${issue?.message ?? 'cannot be read'}` }
  }
  const objection = kindOf(kind).objection?.(parsed.data) ?? null
  return objection === null ? { ok: true, body: parsed.data as Bodies[One] } : { ok: false, message: objection }
}
