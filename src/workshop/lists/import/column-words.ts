import { type Counted, dateReadings, momentIn, type Tally, type Target } from '#core/import'
import type { Column, StatusMeaning } from '#core/list'

/** A word of a column, a spelling of its dates or a tag, as it stands in the file. */
export interface ColumnWord extends Counted {
  key: string
}

export const meaningNames: Record<StatusMeaning, string> = {
  confirmed: 'on the list',
  waiting: 'to confirm',
  left: 'left',
  removed: 'removed',
  bounced: 'bounced',
  complained: 'complained',
  'not-taken': 'not taken',
  nothing: 'says nothing of it',
}

/** What there is to decide of a column, the most frequent first. */
export function wordsFor(target: Target, tally: Tally, columns: readonly Column[]): ColumnWord[] {
  const all = (counts: Record<string, Counted> | null) =>
    Object.entries(counts ?? {}).map(([key, counted]) => ({ key, ...counted }))
  switch (target.to) {
    case 'status':
      return all(tally.words)
    case 'joined':
      return all(tally.spellings)
    case 'tags':
      return all(tally.tags[target.separator])
    case 'column':
      return columns.find(({ key }) => key === target.key)?.kind === 'yes-no'
        ? all(tally.words).filter(({ key }) => key !== '')
        : []
    default:
      return []
  }
}

const dayNames = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long', timeZone: 'UTC' })

/** What a word, or a spelling that this example has, can mean. */
export function choicesFor(target: Target, example: string): { value: string; label: string }[] {
  switch (target.to) {
    case 'status':
      return Object.entries(meaningNames).map(([value, label]) => ({ value, label }))
    case 'joined': {
      const seen = new Set<string>()
      // “Left out” reads no date, so it is offered last, by its own words.
      const read = dateReadings.flatMap((value) => {
        const at = momentIn(example, value)
        const label = at === null ? '' : dayNames.format(new Date(at))
        if (label === '' || (seen.has(label) && !value.startsWith('unix'))) return []
        seen.add(label)
        return [{ value: value as string, label }]
      })
      return [...read, { value: 'left-out', label: 'leave the date out' }]
    }
    case 'column':
      return [
        { value: 'yes', label: 'yes' },
        { value: 'no', label: 'no' },
        { value: 'nothing', label: 'nothing' },
      ]
    default:
      return []
  }
}
