import { checkup, type Finding } from '#core/checkup'
import { messagesInUse } from '#core/mail'
import { type Spot, spotName } from '#core/spot'
import { type Station, stations } from '#core/station'
import { carriedOn } from './onward'
import { realState } from './real'
import { rehearsedState } from './rehearsed'
import { latestOf } from './shown'
import { type LineSubject, type RealSignUp, type State, type StationState, worstFirst } from './signal'

/**
 * The state of a form's line: at each station that of the live spot where it is worst, because a form is as good as
 * what its visitors meet somewhere. Where it has several, the reason names the spot.
 */
export function lineOf(subject: LineSubject): StationState[] {
  const lines = linesOf(subject)
  if (lines.length === 0) return lineThrough(subject, null, checkup(subject))
  return stations.map((_, at) => {
    const worst = lines
      .map(({ line }) => line[at]!)
      .reduce((one, other) => (worstFirst.indexOf(other.signal) < worstFirst.indexOf(one.signal) ? other : one))
    if (lines.length === 1) return worst
    const spot = subject.spots.find(({ id }) => id === worst.spot)
    const isOfAll = lines.every(({ line }) => line[at]!.reason === worst.reason)
    const findings = [...new Set(lines.flatMap(({ line }) => line[at]!.findings))]
    return {
      ...worst,
      findings,
      reason: isOfAll || spot === undefined ? worst.reason : `${spotName(spot, subject.sites)}: ${worst.reason}`,
    }
  })
}

/** The line of each live spot: a spot is proven by what came through it, never by what came through another. */
export function linesOf(subject: LineSubject): { spot: Spot; line: StationState[] }[] {
  const findings = checkup(subject)
  return subject.spots
    .filter(({ state }) => state === 'live')
    .map((spot) => ({ spot, line: lineThrough(subject, spot, findings) }))
}

function lineThrough(subject: LineSubject, spot: Spot | null, all: readonly Finding[]): StationState[] {
  const arrivals = subject.arrivals.filter((arrival) => arrival.spot === spot?.id)
  const others = new Set<string>(subject.spots.filter(({ id }) => id !== spot?.id).map(({ id }) => id))
  return stations.map((station) => {
    const findings = all.filter(
      (finding) => finding.station === station && !(finding.about !== undefined && others.has(finding.about)),
    )
    // A hint is worth a thought and no more: it changes no signal.
    const work = findings.find(({ weight }) => weight !== 'hint')
    const [signal, reason] = work ? (['needs-work', work.message] as const) : stateOf(station, subject, spot, arrivals)
    return { station, signal, reason, findings, spot: spot?.id ?? null }
  })
}

/**
 * By what the newest rehearsal showed, as long as nothing that it is about has changed; else by what real people really
 * went through.
 */
function stateOf(station: Station, subject: LineSubject, spot: Spot | null, arrivals: readonly RealSignUp[]): State {
  const { direct } = subject.form.draft
  const isUnpublished = spot?.code === 'rule' && (spot.placing?.published ?? null) === null
  if (station === 'spot' && isUnpublished && latestOf(subject.versions) !== undefined)
    return ['needs-work', 'Its rule is not published: no page shows the form.']
  const rehearsed = spot === null ? null : rehearsedState(station, subject, spot)
  // What its list and mails are, only the service knows.
  if (direct !== undefined)
    return rehearsed !== null && station !== 'mail' && station !== 'list'
      ? rehearsed
      : directState(station, new URL(direct.action).host)
  const real = realState(station, subject, spot, arrivals)
  const state = rehearsed !== null && (rehearsed[0] !== 'changed' || real[0] !== 'proven') ? rehearsed : real
  return station === 'mail' ? delivered(state, subject) : station === 'list' ? carriedOn(state, subject) : state
}

/** What a form that posts straight to a service can show here: the rest only the service can prove. */
function directState(station: Station, host: string): State {
  switch (station) {
    case 'spot':
      return ['ready', `Its code posts straight to ${host}: sign up on the page, and look for yourself there.`]
    case 'form':
      return ['ready', `It asks what the form of ${host} asks.`]
    case 'answer':
      return ['ready', `${host} answers with a page of its own. Only it can prove that: sign up, and read it.`]
    case 'mail':
      return ['empty', `Whatever mail follows is sent by ${host}.`]
    case 'list':
      return ['ready', `Sign-ups go into the list at ${host}. Only it can prove that: look for them there.`]
  }
}

/**
 * What a rehearsal saw of mail ends where mail leaves for the world: only an inbox proves more. What keeps mail from
 * being sent at all is wrong whatever was rehearsed.
 */
function delivered(state: State, { mail, delivery }: LineSubject): State {
  const published = mail?.published ?? null
  const sends = published !== null && messagesInUse(published).length > 0
  if (sends && delivery?.state === 'no-server')
    return ['needs-work', 'No mail server is set up: nothing that this list writes is sent.']
  if (sends && delivery?.state === 'refused')
    return ['needs-work', `The mail server refuses what is sent. It said: ${delivery.said}`]
  if (state[0] !== 'proven' || delivery?.state === 'stand-in' || delivery?.state === 'arrived') return state
  return [
    'ready',
    delivery === null
      ? 'Rehearsed, and held. Whether mail reaches real inboxes is not known here.'
      : 'Rehearsed, and held as far as the mail server. A code to an inbox of your own proves that mail arrives.',
  ]
}
