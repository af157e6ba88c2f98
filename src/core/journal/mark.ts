import type { Entry } from './entry'

/**
 * What never changes of an entry, as one text: its place, its kind, its time, and whom and what it is about. The
 * personal part (address, values, page) is left out, because erasing a person blanks it in place.
 *
 * Each entry's mark is a hash over the mark before and this text, so two journals that have the same mark at a number
 * have the same history up to it. The format is fixed: marks made long ago are compared with those made today.
 */
export function skeletonOf(entry: Entry): string {
  const about =
    entry.kind === 'arrival'
      ? [entry.id, entry.spot, entry.form, entry.version, entry.list, entry.verdict, entry.member]
      : [idOf(entry), entry.list, entry.member]
  return JSON.stringify([entry.n, entry.kind, entry.at, ...about])
}

/** What an entry is known by wherever it stands: that of the command that led to it, or its own. */
export function idOf(entry: Entry): string {
  return 'command' in entry ? entry.command : entry.id
}
