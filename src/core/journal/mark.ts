import { canonicalJson } from '#core/json'
import type { NewEntry } from './entry'

/**
 * What never changes of an entry, as one text: its place, its kind, its time, whom and what it is about, and what its
 * personal part (address, values, page) is committed to by. The personal part itself is left out, because erasing a
 * person blanks it in place: changing it shows in the mark, erasing it does not.
 *
 * Each entry's mark is a hash over the mark before and this text, so two journals that have the same mark at a number
 * have the same history up to it. The format is fixed: marks made long ago are compared with those made today.
 *
 * @param commitment the hash of `personalText`, or what the entry itself keeps of it once erased; null for entries that tell nothing of a person
 */
export function skeletonOf(n: number, entry: NewEntry, commitment: string | null): string {
  const about =
    entry.kind === 'arrival'
      ? [entry.id, entry.spot, entry.form, entry.version, entry.list, entry.verdict, entry.member]
      : entry.kind === 'message'
        ? [entry.id, entry.spot, entry.form, entry.version, entry.list, entry.joins, entry.held ?? '']
        : entry.kind === 'message-released'
          ? [entry.id, entry.list, entry.message]
          : entry.kind === 'messages-erased'
            ? [entry.id, entry.list, entry.why, canonicalJson(entry.messages)]
            : [idOf(entry), entry.list, entry.member, ...('batch' in entry ? [entry.batch, ...batchPart(entry)] : [])]
  const by = entry.by === undefined ? [] : [{ by: entry.by }]
  return JSON.stringify([n, entry.kind, entry.at, ...about, ...by, ...(commitment === null ? [] : [commitment])])
}

/** What an entry of a batch says beside it. Fixed like the rest; canonical, so that it is the same however it travelled. */
function batchPart(entry: Extract<NewEntry, { batch: string }>): string[] {
  switch (entry.kind) {
    case 'batch-begun':
      return [canonicalJson(entry.purpose)]
    case 'batch-ended':
      return [canonicalJson([entry.isStopped, entry.counts, entry.passedOver])]
    case 'member-written':
      return [entry.status, entry.joinedAt]
    case 'members-changed':
      return [canonicalJson(entry.members)]
    case 'members-erased':
      return [canonicalJson([entry.members, entry.entries, entry.hashes])]
  }
}

/**
 * The personal part of an entry as the one text that it is committed to by; null where it tells nothing of a person, or
 * no longer. The same however the entry travelled.
 */
export function personalText(entry: NewEntry): string | null {
  return 'personal' in entry && entry.personal !== null ? canonicalJson(entry.personal) : null
}

/** What an entry is known by wherever it stands: that of the command that led to it, or its own. */
export function idOf(entry: NewEntry): string {
  return 'command' in entry ? entry.command : entry.id
}
