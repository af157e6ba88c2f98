import type { Column } from '#core/list'
import { headingIn } from './headings'
import { type DateReading, readingOfSpelling } from './moment'
import type { Decided, Target } from './target'
import type { Counted, Tally } from './survey'
import { A_DATE, type StatusMeaning, statusIn, tickIn } from '#core/list'

/** A target with the decidable cells decided: words known in the ten languages, dates with one possible reading. */
export function decided(target: Target, tally: Tally | undefined, name: string, columns: readonly Column[]): Target {
  if (tally === undefined) return target
  switch (target.to) {
    case 'status':
      return { ...target, means: known(tally.words, (word) => meaningOf(word, name), target.means) }
    case 'joined':
      return { ...target, read: knownReadings(tally, target.read) }
    case 'tags': {
      const { separators } = tally
      // Commas stand in tags too, where others stand between them.
      const most = ([';', '|'] as const).find((one) => separators[one] > separators[','])
      return { ...target, separator: most ?? ',' }
    }
    case 'column': {
      const kind = columns.find(({ key }) => key === target.key)?.kind
      return kind === 'yes-no' ? { ...target, means: known(tally.words, tickValue, target.means ?? {}) } : target
    }
    default:
      return target
  }
}

/** Undecided words and spellings of a column; the import waits until there are none. */
export interface Undecided {
  /** The word, or the spelling; null where there are too many of them to decide one by one. */
  key: string | null
  example: string
}

export function undecidedIn(target: Target, tally: Tally | undefined, columns: readonly Column[]): Undecided[] {
  const missing = (all: Record<string, Counted> | null, decisions: Decided<string>): Undecided[] =>
    all === null
      ? [{ key: null, example: '' }]
      : Object.entries(all)
          .filter(([key]) => key !== '' && !Object.hasOwn(decisions, key))
          .map(([key, { example }]) => ({ key, example }))
  if (tally === undefined) return []
  switch (target.to) {
    case 'status':
      return missing(tally.words, target.means)
    case 'joined':
      return missing(tally.spellings, target.read)
    case 'column':
      return columns.find(({ key }) => key === target.key)?.kind === 'yes-no'
        ? missing(tally.words, target.means ?? {})
        : []
    default:
      return []
  }
}

function known<Decision extends string>(
  words: Tally['words'],
  decide: (word: string) => Decision | null,
  before: Decided<Decision>,
): Decided<Decision> {
  const all = Object.keys(words ?? {}).flatMap((word) => {
    const decision = word === '' ? null : decide(word)
    return decision === null ? [] : [[word, decision] as const]
  })
  return { ...Object.fromEntries(all), ...before }
}

function knownReadings({ spellings }: Tally, before: Decided<DateReading>): Decided<DateReading> {
  const all = Object.entries(spellings ?? {}).flatMap(([spelling, told]) => {
    const reading = readingOfSpelling(spelling, told)
    return reading === null ? [] : [[spelling, reading] as const]
  })
  return { ...Object.fromEntries(all), ...before }
}

/** What a word says in a column of that heading. A tick below “Unsubscribed” says another thing than below “Newsletter”. */
function meaningOf(word: string, name: string): StatusMeaning | null {
  const heading = headingIn(name)
  const isTicked = word === A_DATE ? true : tickIn(word)
  switch (heading) {
    case 'left':
    case 'bounced':
    case 'complained':
      if (isTicked !== null) return isTicked ? heading : 'nothing'
      break
    case 'consent':
    // “Opt-in: yes”; a date below it is read as one.
    case 'joined':
      if (isTicked !== null) return isTicked ? 'nothing' : 'not-taken'
      break
    default:
      // Below a heading that says nothing of it, a date or a tick may mean anything.
      if (isTicked !== null && word !== A_DATE && heading === 'status') return isTicked ? 'confirmed' : null
  }
  return statusIn(word)
}

function tickValue(word: string): 'yes' | 'no' | null {
  const isTicked = tickIn(word)
  return isTicked === null ? null : isTicked ? 'yes' : 'no'
}
