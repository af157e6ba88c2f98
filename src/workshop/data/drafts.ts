import { type Bodies, type Drafted, type Kind, kindOf, mergeValues } from '#core/sync'
import { database } from './database'
import { bodyHere, syncedId, writeHere } from './rows'

/** Who wrote a draft when a theme that it wears was changed or forgotten. */
export const BY_THEME = 'theme'

/** An object with the mark of whoever wrote its drafted parts last; a mark is never given twice. */
export interface KeptDraft<One extends Kind = Kind> {
  key: string
  body: Bodies[One]
  mark: string | null
  by: string | null
}

/** The parts of an object that are drafted with undo. */
export function draftedParts<One extends Kind>(kind: One, body: Bodies[One]): Drafted<One> {
  const parts: readonly string[] = kindOf(kind).drafted ?? []
  return Object.fromEntries(
    parts.map((part) => [part, (body as Record<string, unknown>)[part]]),
  ) as unknown as Drafted<One>
}

/**
 * Keeps the drafted parts of an object and marks them as written by `by`, in one step. A loose reference to what was
 * taken away meanwhile becomes null. What somebody else wrote since `basedOn` was read is kept as well, where it is about
 * other parts. Call it inside a transaction over `draftTables`, or on its own.
 *
 * @param start the whole object, where it may not be kept yet
 * @returns the object as it is kept now, and whether that is more than what was given; null where it was taken away
 */
export async function writeDraft<One extends Kind>(
  kind: One,
  key: string,
  parts: Drafted<One>,
  { by, basedOn = null, start = null }: { by: string; basedOn?: KeptDraft<One> | null; start?: Bodies[One] | null },
): Promise<{ kept: KeptDraft<One>; isMerged: boolean } | null> {
  return database.transaction('rw', draftTables(kind), async () => {
    const draft = await readDraft(kind, key)
    const body = draft?.body ?? start
    // Taken away meanwhile: nothing brings it back unasked.
    if (body === null) return null
    const wanted = await withoutLost(kind, parts)
    const isOvertaken = basedOn !== null && draft !== null && draft.mark !== basedOn.mark
    const merged = isOvertaken
      ? (mergeValues(draftedParts(kind, basedOn.body), wanted, draftedParts(kind, draft.body), 'here') as typeof wanted)
      : wanted
    await writeHere({ kind, key, body: { ...body, ...merged }, by })
    return { kept: (await readDraft(kind, key))!, isMerged: isOvertaken }
  })
}

/** An object as it is kept, with its mark, both of one moment; null where it is not. */
export function readDraft<One extends Kind>(kind: One, key: string): Promise<KeptDraft<One> | null> {
  return database.transaction('r', draftTables(kind), async () => {
    const [body, draft] = await Promise.all([bodyHere(kind, key), database.drafts.get(syncedId(kind, key))])
    return body === null ? null : { key, body: body as Bodies[One], mark: draft?.mark ?? null, by: draft?.by ?? null }
  })
}

/** What a draft of this kind is written and read with. */
export function draftTables(kind: Kind) {
  const { table, loose } = kindOf(kind)
  return [
    database[table],
    database.drafts,
    ...(loose === undefined ? [] : [database[kindOf(loose.kind as Kind).table]]),
  ]
}

async function withoutLost<One extends Kind>(kind: One, parts: Drafted<One>): Promise<Drafted<One>> {
  const { loose } = kindOf(kind)
  const key = loose === undefined ? null : (parts as unknown as Record<string, string | null>)[loose.part]
  if (loose === undefined || !key) return parts
  return (await bodyHere(loose.kind as Kind, key)) === null ? { ...parts, [loose.part]: null } : parts
}
