import type { SpotId } from '#core/ids'
import { endsWithMark, type MarkKeys, markOf } from '../marks'
import { newId } from '../random'

/*
 * A note of one view comes with every form that is shown by a script, in a frame or as a page of its own: which spot and
 * version, in which hour. What is told of the view, and the sign-up that comes of it, bring the note back, so that nothing
 * is counted that this receiver has not shown, and each once.
 */

const HOUR_MS = 3_600_000
/** A form may be left open for a day. */
export const NOTE_HOURS = 24

export interface NotedView {
  /** Key under which a view is counted once. */
  id: string
  spot: SpotId
  version: number
}

/** @param at milliseconds since 1970 */
export function newView(keys: MarkKeys, spot: SpotId, version: number, at: number): NotedView & { note: string } {
  const id = newId<string>()
  const facts = `${version}.${Math.floor(at / HOUR_MS).toString(36)}.${id}`
  return { id, spot, version, note: `${facts}.${markOf(keys, 'view', spot, facts)}` }
}

/** The view that a note is of; null for one that is none of ours, of another spot, or too old. */
export function viewIn(keys: MarkKeys, note: string, spot: SpotId, at: number): NotedView | null {
  const [, facts, version, hour, id] = /^((\d{1,7})\.([a-z0-9]{1,7})\.([a-z0-9]{8,32}))\.[\w-]{22}$/.exec(note) ?? []
  if (facts === undefined || !endsWithMark(keys, note, 'view', spot, facts)) return null
  const age = Math.floor(at / HOUR_MS) - Number.parseInt(hour!, 36)
  // A clock that was put back shows as an hour to come.
  return Math.abs(age) <= NOTE_HOURS ? { id: id!, spot, version: Number(version) } : null
}
