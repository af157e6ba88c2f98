import type { Form } from '#core/form'
import type { SiteId } from '#core/ids'
import type { Signal, StationState } from '#core/line'

/** In which order forms stand on the Desk, and which of them. */
export interface DeskWish {
  words: string
  /** `newest` is the order in which they are told: by when they were made. */
  order: 'newest' | 'hand' | 'name' | 'joined'
  site: SiteId | ''
  state: DeskState | ''
}
export type DeskState = 'needs-work' | 'changed' | 'proven' | 'unpublished' | 'paused'
export const openWish: DeskWish = { words: '', order: 'newest', site: '', state: '' }

/** What the Desk knows of a form; `signal` is the worst of its line, null until it is worked out. */
export interface DeskForm {
  form: Form
  /** Names of its list and sites, to be found by. */
  about: string
  sites: readonly SiteId[]
  signal: Signal | null
  isPublished: boolean
  /** No spot of it takes sign-ups for now. */
  isPaused: boolean
  /** In seven days. */
  joined: number
}

const urgency: Record<Signal, number> = { 'needs-work': 0, changed: 1, empty: 2, ready: 3, proven: 4 }

/** The signal of a line that needs a hand most. A list that sends no mail lacks nothing. */
export const worstOf = (line: readonly Pick<StationState, 'station' | 'signal'>[]): Signal =>
  line
    .filter(({ station, signal }) => station !== 'mail' || signal !== 'empty')
    .map(({ signal }) => signal)
    .reduce((worst, signal) => (urgency[signal] < urgency[worst] ? signal : worst), 'proven')

/** The forms that are wished for, in the order that is. */
export function foundForms(all: readonly DeskForm[], { words, order, site, state }: DeskWish): DeskForm[] {
  const sought = words.trim().toLowerCase().split(/\s+/)
  const found = all.filter(
    (one) =>
      sought.every((word) => `${one.form.name} ${one.about}`.toLowerCase().includes(word)) &&
      (site === '' || one.sites.includes(site)) &&
      (state === '' || isInState(one, state)),
  )
  switch (order) {
    case 'newest':
      return found
    case 'name':
      return found.toSorted((one, other) => one.form.name.localeCompare(other.form.name))
    case 'joined':
      return found.toSorted((one, other) => other.joined - one.joined)
    case 'hand':
      return found.toSorted((one, other) => rank(one) - rank(other))
  }
}

const rank = ({ signal }: DeskForm) => (signal === null ? urgency.ready : urgency[signal])

function isInState({ signal, isPublished, isPaused }: DeskForm, state: DeskState): boolean {
  if (state === 'unpublished') return !isPublished
  return state === 'paused' ? isPaused : signal === state
}
