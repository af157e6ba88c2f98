import { checkup, type CheckupSubject, type Finding, type Station, stations } from '#core/checkup'
import { sameValue, type FormContent, type Version } from '#core/form'
import type { Arrival } from '#core/journal'

/** A station's state. The workshop draws it as a railway arm; these words say the same. */
export type Signal = 'empty' | 'needs-work' | 'ready' | 'proven' | 'changed'

export const signalWords: Record<Signal, string> = {
  empty: 'empty',
  'needs-work': 'needs work',
  ready: 'ready',
  proven: 'proven',
  changed: 'changed since proof',
}

export interface StationState {
  station: Station
  signal: Signal
  /** Why, in one short sentence. */
  reason: string
  findings: Finding[]
}

export interface LineSubject extends CheckupSubject {
  /** Those of this form, in any order. */
  versions: readonly Version[]
  /** Sign-ups by people through this form (no bots), in any order. */
  arrivals: readonly Pick<Arrival, 'version' | 'verdict' | 'at' | 'spot'>[]
}

/**
 * The state of a form's whole line. A station is proven by a real sign-up that went through it: the newest
 * one's version is held against what the station is today.
 */
export function lineOf(subject: LineSubject): StationState[] {
  const findings = checkup(subject)
  const latest = newest(subject.versions, (version) => version.number)
  const proof = newest(subject.arrivals, (arrival) => Date.parse(arrival.at))
  const proven = subject.versions.find((version) => version.number === proof?.version)
  return stations.map((station) => {
    const own = findings.filter((finding) => finding.station === station)
    // A hint is worth a thought and no more: it changes no signal.
    const work = own.find(({ weight }) => weight !== 'hint')
    const [signal, reason] = work ? (['needs-work', work.message] as const) : stateOf(station, subject, latest, proven)
    return { station, signal, reason, findings: own }
  })
}

function stateOf(
  station: Station,
  subject: LineSubject,
  latest: Version | undefined,
  proven: Version | undefined,
): readonly [Signal, string] {
  const { draft } = subject.form
  switch (station) {
    case 'spot':
      if (latest === undefined) return ['empty', 'Publish the form to get its code.']
      if (proven === undefined) return ['ready', 'The code is ready. No sign-up has come through it yet.']
      return proven.number === latest.number
        ? ['proven', `A sign-up came through the code of version ${latest.number}.`]
        : ['changed', `The newest sign-up came through the code of version ${proven.number}; version ${latest.number} is published.`]
    case 'form':
      if (proven === undefined) return ['ready', latest === undefined ? 'Nothing is missing. Not published yet.' : 'Published. No sign-up has come yet.']
      return sameValue(asked(draft), asked(proven.content))
        ? ['proven', 'A visitor filled in exactly this form.']
        : ['changed', `Changed since version ${proven.number}, which the newest visitor saw.`]
    case 'answer':
      if (proven === undefined) return ['ready', 'Both answers are written.']
      return sameValue(answered(draft), answered(proven.content))
        ? ['proven', 'A visitor was sent to exactly this answer.']
        : ['changed', `Changed since version ${proven.number}, which the newest visitor saw.`]
    case 'mail':
      return ['empty', 'No mail is sent: whoever signs up is on the list at once.']
    case 'list': {
      const joined = subject.arrivals.some((arrival) => arrival.verdict === 'joined')
      if (!joined) return ['ready', 'The list stands. Nobody has joined through this form yet.']
      return proven !== undefined && proven.list !== subject.form.list
        ? ['changed', 'The form feeds another list than when people joined.']
        : ['proven', 'People who signed up through this form are in the list.']
    }
  }
}

/** What the Form station shows. */
function asked({ answers: _, shape: _shape, ...rest }: FormContent) {
  return rest
}

/** What the Answer station shows: the answers, in the form's look and language. */
function answered({ answers, look, language, texts }: FormContent) {
  return { answers, look, language, texts }
}

function newest<T>(all: readonly T[], order: (one: T) => number): T | undefined {
  return all.reduce<T | undefined>((best, one) => (best === undefined || order(one) > order(best) ? one : best), undefined)
}
