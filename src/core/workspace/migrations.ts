import type { WorkspacePart } from './workspace'

/** An item as the JSON that an older file holds. */
type Json = Record<string, unknown>
/** What a step makes of the items of each part that it changes. */
export type MigrationStep = Partial<Record<WorkspacePart, (item: Json) => Json>>

/**
 * What older files lack, put in step by step: `migrations[2]` turns items of version 2 into those of version 3. Each
 * works on plain JSON as it was then, is never changed once released, and leaves alone what it does not understand: the
 * schema judges the result.
 */
export const migrations: Record<number, MigrationStep> = {
  2: { 'journal.entries': withPersonalPart },
}

/** What stood among the rest of an entry, by kind, and tells of a person. */
const personalNames: Record<string, readonly string[]> = {
  arrival: ['email', 'values', 'tags', 'consents', 'cameFrom', 'region', 'page'],
  'member-added': ['email', 'values'],
  'member-edited': ['email', 'values'],
  'member-bounced': ['reason'],
}

/** Version 3 keeps what an entry tells of a person apart, so that it can be erased. */
export function withPersonalPart(entry: Json): Json {
  const names = personalNames[String(entry.kind)]
  if (names === undefined || 'personal' in entry) return entry
  const pairs = Object.entries(entry)
  return {
    ...Object.fromEntries(pairs.filter(([name]) => !names.includes(name))),
    personal: Object.fromEntries(pairs.filter(([name]) => names.includes(name))),
  }
}
