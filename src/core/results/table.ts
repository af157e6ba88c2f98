import type { FormId, SpotId } from '#core/ids'
import type { SignUpRow } from './people'
import type { Count } from './rate'
import type { SeenRow } from './seen'

/** What is looked at: days, both included, and what else all rows have to be of. */
export interface Looked {
  from: string
  to: string
  form?: FormId
  spot?: SpotId
  source?: string
}

/** Sums of one form, spot, source, version or day. */
export interface ResultLine {
  key: string
  /** Null where nothing counts them: where a form stands on its page without our script. */
  views: number | null
  starts: number | null
  /** Views that were set aside because of where they came from. */
  setAside: number
  signUps: number
  asked: number
  confirmed: number
  already: number
  bots: number
  /** Sign-ups whose view was counted, of the views: null where none was, or more signed up than the rest of the row tells of. */
  rate: Count | null
}

export type ResultKey = 'form' | 'spot' | 'source' | 'version' | 'day'

interface Sums extends Omit<ResultLine, 'rate' | 'views' | 'starts'> {
  views: number
  starts: number
  isCounted: boolean
  viewed: number
}

/** Adds up sign-ups and views by something, in the order of the most sign-ups. */
export function resultLines({
  by,
  looked,
  signUps,
  seen,
  formOf,
}: {
  by: ResultKey
  looked: Looked
  signUps: readonly SignUpRow[]
  seen: readonly SeenRow[]
  formOf: ReadonlyMap<SpotId, FormId>
}): ResultLine[] {
  const lines = new Map<string, Sums>()
  const sums = (key: string) => {
    let line = lines.get(key)
    if (line === undefined)
      lines.set(
        key,
        (line = {
          ...{ key, views: 0, starts: 0, setAside: 0, signUps: 0, asked: 0, confirmed: 0, already: 0, bots: 0 },
          ...{ isCounted: false, viewed: 0 },
        }),
      )
    return line
  }
  for (const row of signUps) {
    if (!isLookedAt(looked, row, row.form)) continue
    const line = sums(keyOf(by, row, row.form))
    line.signUps += row.signUps
    line.asked += row.asked
    line.confirmed += row.confirmed
    line.already += row.already
    line.bots += row.bots
    line.viewed += row.viewed
  }
  for (const row of seen) {
    const form = formOf.get(row.spot)
    if (form === undefined || !isLookedAt(looked, row, form)) continue
    const line = sums(keyOf(by, row, form))
    line.isCounted = true
    line.views += row.views
    line.starts += row.starts
    line.setAside += row.setAside
  }
  return [...lines.values()]
    .map(({ isCounted, viewed, views, starts, ...line }) => ({
      ...line,
      views: isCounted ? views : null,
      starts: isCounted ? starts : null,
      rate: isCounted && views > 0 && viewed <= views ? { count: viewed, of: views } : null,
    }))
    .toSorted((one, other) => other.signUps - one.signUps || (one.key < other.key ? -1 : 1))
}

function isLookedAt(looked: Looked, row: { day: string; spot: SpotId; source: string }, form: FormId): boolean {
  return (
    row.day >= looked.from &&
    row.day <= looked.to &&
    (looked.form === undefined || looked.form === form) &&
    (looked.spot === undefined || looked.spot === row.spot) &&
    (looked.source === undefined || looked.source === row.source)
  )
}

function keyOf(
  by: ResultKey,
  row: { day: string; spot: SpotId; version: number; source: string },
  form: FormId,
): string {
  switch (by) {
    case 'form':
      return form
    case 'spot':
      return row.spot
    case 'source':
      return row.source
    case 'version':
      return `${form} ${row.version}`
    case 'day':
      return row.day
  }
}

/** The whole way in one sum of all that is looked at. */
export function wholeWay(lines: readonly ResultLine[]): Omit<ResultLine, 'key' | 'rate'> {
  const sum = (part: 'signUps' | 'asked' | 'confirmed' | 'already' | 'bots' | 'setAside') =>
    lines.reduce((all, line) => all + line[part], 0)
  const counted = lines.filter(({ views }) => views !== null)
  const known = (part: 'views' | 'starts') =>
    counted.length === 0 ? null : counted.reduce((all, line) => all + (line[part] ?? 0), 0)
  return {
    views: known('views'),
    starts: known('starts'),
    setAside: sum('setAside'),
    signUps: sum('signUps'),
    asked: sum('asked'),
    confirmed: sum('confirmed'),
    already: sum('already'),
    bots: sum('bots'),
  }
}
