import { type Signal, signalWords, type StationState } from '#core/line'
import { element, type Node } from '#core/render'
import { rateWords, type ResultLine, wholeWay } from '#core/results'
import { stationNames } from '#core/station'
import { type ReportPart, resultsPage } from './results'

/** Days that can be looked at, the first one being what is shown at first. */
export const CLIENT_DAYS = [30, 7, 90, 365] as const

export interface ClientFacts {
  name: string
  /** ISO 8601 days, both included. */
  from: string
  to: string
  days: number
  /** The line of each form, with what its owner calls it. */
  lines: readonly { form: string; stations: readonly Pick<StationState, 'station' | 'signal'>[] }[]
  /** By spot, by form and by day. */
  bySpot: readonly ResultLine[]
  byDay: readonly ResultLine[]
  /** All days of the period. */
  allDays: readonly string[]
  /** Of the spot: its form, and where it is. */
  namesOf: (spot: string) => readonly [form: string, place: string]
  /** When it was all added up, ISO 8601. */
  at: string
}

/**
 * Results and lines as somebody without a key reads them: sums of the owner's own places, and how each station stands. It
 * holds no name, no address and no word of a visitor's.
 */
export function clientPage(facts: ClientFacts): string {
  const { name, from, to, days, bySpot, byDay, allDays, lines, namesOf, at } = facts
  const sums = wholeWay(bySpot)
  const number = (count: number) => count.toLocaleString('en-GB')
  const perDay = new Map(byDay.map(({ key, signUps }) => [key, signUps]))
  const parts: ReportPart[] = [
    {
      title: 'Sign-ups by day',
      words: daysWords(allDays, perDay),
      picture: null,
      drawn: barsOf(allDays, perDay),
      columns: [{ label: 'Day' }, { label: 'Sign-ups', isNumber: true }],
      rows: allDays.map((day) => [shortDay(day), perDay.get(day) ?? 0]),
      isOpen: false,
    },
    {
      title: 'By place',
      words: bySpot.length === 0 ? 'Nothing was seen or sent in this time.' : '',
      picture: null,
      columns: [
        { label: 'Form' },
        { label: 'Place' },
        { label: 'Seen', isNumber: true },
        { label: 'Sign-ups', isNumber: true },
        { label: 'On a list', isNumber: true },
        { label: 'Of those who saw it' },
      ],
      rows: bySpot.map(({ key, views, signUps, confirmed, rate }) => [
        ...namesOf(key),
        views === null ? 'not counted' : number(views),
        number(signUps),
        number(confirmed),
        rate === null ? '' : rateWords(rate),
      ]),
      isOpen: true,
    },
  ]
  return resultsPage({
    title: name,
    about: `${shortDay(from)} to ${shortDay(to)} ${to.slice(0, 4)}`,
    lead:
      sums.signUps === 0
        ? `Nobody signed up in these ${days} days.`
        : `${number(sums.signUps)} ${sums.signUps === 1 ? 'person' : 'people'} signed up in these ${days} days; ${number(sums.confirmed)} came onto a list.`,
    above: [periodsOf(days)],
    parts,
    below: [linesOf(lines), element('p', { class: 'about below' }, `As of ${at.slice(0, 16).replace('T', ' ')} UTC.`)],
  })
}

function periodsOf(days: number): Node {
  return element(
    'nav',
    { 'aria-label': 'Days' },
    ...CLIENT_DAYS.toSorted((one, other) => one - other).map((one) =>
      element(
        'a',
        { href: `?days=${one}`, ...(one === days && { 'aria-current': 'page' }) },
        one === 365 ? 'A year' : `${one} days`,
      ),
    ),
  )
}

function linesOf(lines: ClientFacts['lines']): Node {
  return element(
    'section',
    { class: 'lines' },
    element('h2', {}, 'How each form stands'),
    element(
      'p',
      {},
      'From the page to the list: an arm that stands upright was tried and held; a level one in red needs work.',
    ),
    ...lines.map(({ form, stations }) =>
      element(
        'div',
        { class: 'line' },
        element('h3', {}, form),
        element(
          'ol',
          {},
          ...stations.map(({ station, signal }) =>
            element(
              'li',
              { class: signal },
              armOf(signal),
              element('b', {}, stationNames[station]),
              element('span', {}, signalWords[signal]),
            ),
          ),
        ),
      ),
    ),
  )
}

const degrees: Record<Signal, number> = { empty: 90, 'needs-work': 0, ready: -45, proven: -90, changed: -90 }

/** The railway arm of a station; the words beside it say the same. */
function armOf(signal: Signal): Node {
  const blades =
    signal === 'changed' ? ['M12 18.5h7.5v7H12z', 'M26 17.5l9-.7v10.4l-9-.7z'] : ['M12 18.5l23-1.7v10.4L12 25.5z']
  return element(
    'svg',
    { viewBox: '0 0 44 44', width: '36', height: '36', 'aria-hidden': 'true' },
    element('path', { class: 'post', d: 'M14 44V20' }),
    element(
      'g',
      { transform: `rotate(${degrees[signal]} 14 22)` },
      ...blades.map((d) => element('path', { class: 'blade', d })),
    ),
    element('circle', { class: 'pivot', cx: '14', cy: '22', r: '3.4' }),
  )
}

const WIDTH = 720
const HEIGHT = 120

/** A bar a day, over one zero. */
function barsOf(days: readonly string[], counts: ReadonlyMap<string, number>): Node {
  const most = Math.max(1, ...counts.values())
  const step = WIDTH / days.length
  const bars = days.flatMap((day, at) => {
    const height = ((counts.get(day) ?? 0) / most) * HEIGHT
    return height === 0
      ? []
      : [
          element('rect', {
            x: (at * step).toFixed(2),
            y: (HEIGHT - height).toFixed(2),
            width: Math.max(0.5, step * 0.8).toFixed(2),
            height: height.toFixed(2),
          }),
        ]
  })
  return element(
    'svg',
    { class: 'bars', viewBox: `0 0 ${WIDTH} ${HEIGHT + 18}`, role: 'img', 'aria-label': daysWords(days, counts) },
    ...bars,
    element('path', { class: 'zero', d: `M0 ${HEIGHT}.5H${WIDTH}` }),
    element('text', { x: '0', y: String(HEIGHT + 15) }, shortDay(days[0] ?? '')),
    element('text', { x: String(WIDTH), y: String(HEIGHT + 15), 'text-anchor': 'end' }, shortDay(days.at(-1) ?? '')),
  )
}

function daysWords(days: readonly string[], counts: ReadonlyMap<string, number>): string {
  const best = days.reduce<[string, number]>(
    (found, day) => ((counts.get(day) ?? 0) > found[1] ? [day, counts.get(day)!] : found),
    ['', 0],
  )
  return best[1] === 0 ? 'None in this time.' : `Most on ${shortDay(best[0])}: ${best[1].toLocaleString('en-GB')}.`
}

/** Such as “3 May”. */
function shortDay(day: string): string {
  return new Date(`${day}T00:00:00Z`).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', timeZone: 'UTC' })
}
