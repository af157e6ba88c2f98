import { sameValue } from '#core/json'
import { type Station, stations } from '#core/station'
import { checkup, type CheckupSubject, type Finding } from '#core/checkup'
import { type AnswerCase, answerCases, type FormContent, type Outcome, type Version } from '#core/form'
import type { SpotId } from '#core/ids'
import { type Delivery, type MailSettings, messagesInUse, outcomesWith } from '#core/mail'
import type { Arrival } from '#core/journal'
import { isJoining } from '#core/list'
import { latestProof, onwardStep, type Proof, type Step } from '#core/proof'
import { type Spot, spotName } from '#core/spot'
import { failedThere, refusedThere } from './causes'

/** A station's state. The workshop draws it as a railway arm; these words say the same. */
export type Signal = 'empty' | 'needs-work' | 'ready' | 'proven' | 'changed'

export const signalWords: Record<Signal, string> = {
  empty: 'empty',
  'needs-work': 'needs work',
  ready: 'ready',
  proven: 'proven',
  changed: 'changed since proof',
}

/** From what needs a hand most to what needs none. */
const worstFirst: readonly Signal[] = ['needs-work', 'empty', 'changed', 'ready', 'proven']

export interface StationState {
  station: Station
  signal: Signal
  /** Why, in one short sentence. */
  reason: string
  findings: Finding[]
  /** The spot that it is true of; null where the form has none. */
  spot: SpotId | null
}

/** One place that a list is handed on to. */
export interface Onward {
  name: string
  isPaused: boolean
  /** Why nobody gets there; null while they do. */
  trouble: string | null
  /** When somebody was refused there last, ISO 8601, and how many are by now; missing for nobody. */
  refused?: { at: string; count: number }
}

export interface LineSubject extends CheckupSubject {
  /** Those of this form, in any order. */
  versions: readonly Version[]
  /** Sign-ups by people through this form's spots, in any order: of each spot, the newest of each verdict is enough. */
  arrivals: readonly Pick<Arrival, 'version' | 'verdict' | 'at' | 'spot'>[]
  /** How rehearsals of its spots went, in any order. */
  proofs: readonly Proof[]
  /** Where its list goes on to. */
  onward?: readonly Onward[]
  /** Whether its list's mail is known to arrive; null where nobody has told. */
  delivery: Delivery | null
}

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

type State = readonly [Signal, string]
type RealSignUp = LineSubject['arrivals'][number]

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

/** The state of each place that a list goes on to: proven only by a rehearsal in which the service itself was asked. */
export function onwardStates(
  onward: readonly Onward[],
  proofs: readonly Proof[],
): { name: string; signal: Signal; reason: string }[] {
  return onward.map(({ name, isPaused, trouble, refused }) => {
    if (isPaused) return { name, signal: 'empty', reason: 'Paused: nobody goes there for now.' }
    if (trouble !== null) return { name, signal: 'needs-work', reason: trouble }
    const steps = proofs
      .toSorted((one, other) => (one.at < other.at ? 1 : -1))
      .flatMap(({ at, steps }) => {
        const step = steps.find(({ station, what }) => station === 'list' && what === onwardStep(name))
        return step === undefined ? [] : [{ ...step, at }]
      })
    const [step] = steps
    // What happens to real people counts for more than what a made-up one went through before.
    if (refused !== undefined && (step === undefined || refused.at > step.at))
      return { name, signal: 'needs-work', reason: refusedThere(refused.count, step?.verdict === 'passed') }
    if (step === undefined) return { name, signal: 'ready', reason: 'No rehearsal has gone there yet.' }
    const signal = step.verdict === 'passed' ? 'proven' : step.verdict === 'failed' ? 'needs-work' : 'ready'
    return { name, signal, reason: step.seen }
  })
}

/** A list is as good as where it goes on to. */
function carriedOn(state: State, { onward = [], proofs }: LineSubject): State {
  const going = onward.filter(({ isPaused }) => !isPaused)
  const stopped = going.find(({ trouble }) => trouble !== null)
  if (stopped !== undefined) return ['needs-work', `On to ${stopped.name}: ${stopped.trouble}`]
  const states = onwardStates(
    going.filter((one) => one.refused !== undefined),
    proofs,
  )
  const refused = states.find(({ signal }) => signal === 'needs-work')
  if (refused !== undefined) return ['needs-work', `On to ${refused.name}: ${refused.reason}`]
  if (going.length === 0 || state[0] === 'needs-work') return state
  return [state[0], `${state[1]} It goes on to ${going.map(({ name }) => name).join(' and ')}.`]
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

/** What rehearsals found broken at a spot and is still as it was found: at each station, by the newest that says something. */
export function failuresOf(subject: LineSubject, spot: Spot): { proof: Proof; step: Step }[] {
  if (spot.state !== 'live') return []
  return stations.flatMap((station) => {
    const proof = newestAbout(station, subject.proofs, spot)
    const step = proof?.steps.find((one) => one.station === station && one.verdict === 'failed')
    return proof === null || step === undefined || changeSince(station, subject, spot, proof) !== null
      ? []
      : [{ proof, step }]
  })
}

/** The newest rehearsal of a spot that says something of a station: one without a browser, or one that was stopped, may not. */
function newestAbout(station: Station, proofs: readonly Proof[], spot: Spot): Proof | null {
  return latestProof(
    proofs.filter(({ verdict, steps }) => {
      const here = steps.filter((step) => step.station === station)
      if (here.some((step) => step.verdict === 'failed')) return true
      // One that was stopped proves nothing whole; what it found broken is broken.
      const way = here.filter(isWayOfVisitors)
      return (
        verdict !== 'stopped' &&
        way.some((step) => step.verdict === 'passed') &&
        way.every((step) => step.verdict !== 'not-tried')
      )
    }),
    spot.id,
  )
}

/**
 * Whether a step is of the way that visitors take: of the page as it stands at Spot, of the first person who signs up
 * elsewhere, and of the mail. What else was tried proves nothing where that was not.
 */
function isWayOfVisitors({ station, case: one }: Step): boolean {
  return one === 'first' || (station === 'spot' && one === 'page') || (station === 'mail' && one === 'mail')
}

/** What the newest rehearsal that says something of a station says of it; null where none does. */
function rehearsedState(station: Station, subject: LineSubject, spot: Spot): State | null {
  const proof = newestAbout(station, subject.proofs, spot)
  if (proof === null) return null
  const change = changeSince(station, subject, spot, proof)
  if (change !== null)
    return ['changed', `${change} since the rehearsal: proven for the version before. Publish, and rehearse again.`]
  const steps = proof.steps.filter((step) => step.station === station)
  const failed = steps.find(({ verdict }) => verdict === 'failed')
  if (failed !== undefined) return ['needs-work', `Rehearsed: ${failedThere(failed)}`]
  const passed = steps.filter(({ verdict }) => verdict === 'passed').length
  return ['proven', `Rehearsed: ${passed === 1 ? 'one thing was' : `${passed} things were`} tried here, and held.`]
}

/** What a form is by itself; versions that are only tried are none. */
const latestOf = (versions: readonly Version[]): Version | undefined =>
  newest(
    versions.filter(({ isTried }) => !isTried),
    (version) => version.number,
  )

/** What of all that a station stands for is not as it was; null when everything is. */
function changeSince(
  station: Station,
  subject: LineSubject,
  spot: Spot,
  { version: number, about }: Proof,
): string | null {
  const latest = latestOf(subject.versions)
  const seen = subject.versions.find((version) => version.number === number)
  const { draft } = subject.form
  const isElsewhere = subject.receiver && about.receiver && subject.receiver !== about.receiver
  // Codes and links lead there.
  if (isElsewhere && (station === 'spot' || station === 'mail')) return 'The receiver’s address was changed'
  switch (station) {
    case 'spot': {
      const site = subject.sites.find(({ id }) => id === spot.site) ?? null
      if (!sameValue(placeOf(spot), placeOf(about.spot))) return 'The spot was changed'
      if (!sameValue(siteFacts(site), siteFacts(about.site))) return 'The site was changed'
      return latest?.number === number ? null : `Version ${latest?.number} was published`
    }
    case 'form':
      return seen !== undefined && sameValue(asked(draft), asked(seen.content)) ? null : 'The form was changed'
    case 'answer':
      // What visitors are answered depends on whether they have to confirm.
      if (!sameValue(asking(subject.mail?.published), asking(about.mail))) return 'What has to be confirmed was changed'
      return seen !== undefined &&
        answerCases.every((one) => sameValue(answered(draft, one), answered(seen.content, one)))
        ? null
        : 'An answer was changed'
    case 'list': {
      if (seen === undefined || seen.list !== subject.form.list) return 'The form feeds another list'
      if (about.list?.id !== subject.list?.id) return 'The form feeds another list'
      if (!sameValue(filledBy(draft), filledBy(seen.content))) return 'The form fills other columns'
      // Columns that this form does not fill are other forms' matter.
      const isThere = (list: LineSubject['list'] | undefined) => (key: string) =>
        list?.columns.some((column) => column.key === key) ?? false
      const filled = filledBy(seen.content)
      return sameValue(filled.filter(isThere(about.list)), filled.filter(isThere(subject.list)))
        ? null
        : 'The list’s columns were changed'
    }
    case 'mail':
      return sameValue(subject.mail?.draft ?? null, about.mail ?? null) ? null : 'The list’s mail was changed'
  }
}

/** Of a list's mail, what decides on which answer somebody gets. */
function asking(mail: MailSettings | null | undefined) {
  return mail ? { confirm: mail.confirm, regions: mail.regions, isDiscreet: mail.isDiscreet } : null
}

function filledBy({ fields }: FormContent): string[] {
  return [...new Set(fields.flatMap(({ column }) => (column === null ? [] : [column])))].sort()
}

/** Of a spot and its site, what decides on what stands on the page. */
function placeOf({ site, kind, page, code, popUp, placing, slug, state }: Spot) {
  // What is set and not published is on no page.
  const rule = code === 'rule' ? (placing?.published ?? null) : null
  return { site, kind, page, code, popUp, rule, slug, state }
}

function siteFacts(site: LineSubject['sites'][number] | null) {
  return site === null ? null : { address: site.address, kind: site.kind, profile: site.profile }
}

/** By the newest sign-ups of real people: they prove what they went through, and nothing else. */
function realState(station: Station, subject: LineSubject, spot: Spot | null, arrivals: readonly RealSignUp[]): State {
  const { draft } = subject.form
  const latest = latestOf(subject.versions)
  const arrival = newest(arrivals, (arrival) => Date.parse(arrival.at))
  const seen = subject.versions.find((version) => version.number === arrival?.version)
  switch (station) {
    case 'spot': {
      const isPage = spot?.kind === 'landing'
      if (latest === undefined)
        return ['empty', isPage ? 'Publish the form to open its page.' : 'Publish the form to get its code.']
      if (seen === undefined)
        return [
          'ready',
          isPage
            ? 'The page is open. No sign-up has come through it yet.'
            : 'The code is ready. No sign-up has come through it yet.',
        ]
      if (seen.number === latest.number)
        return [
          'proven',
          isPage
            ? `A real sign-up came through the page as version ${latest.number} shows it.`
            : `A real sign-up came through the code of version ${latest.number}.`,
        ]
      if (seen.isTried && seen.number > latest.number)
        return ['proven', 'A real sign-up came through one of the wordings that are tried there.']
      return [
        'changed',
        `The newest sign-up came through version ${seen.number}; version ${latest.number} is published.`,
      ]
    }
    case 'form':
      if (seen === undefined)
        return [
          'ready',
          latest === undefined ? 'Nothing is missing. Not published yet.' : 'Published. No sign-up has come yet.',
        ]
      if (seen.isTried && latest !== undefined && seen.number > latest.number)
        return sameValue(asked(draft), asked(latest.content))
          ? ['proven', 'A real visitor filled in one of the wordings that are tried.']
          : ['changed', `Changed since version ${latest.number}, beside which other wordings are tried.`]
      return sameValue(asked(draft), asked(seen.content))
        ? ['proven', 'A real visitor filled in exactly this form.']
        : ['changed', `Changed since version ${seen.number}, which the newest visitor saw.`]
    case 'answer':
      return answerState(subject, arrivals)
    case 'mail':
      return mailState(subject)
    case 'list': {
      const joined = newest(
        arrivals.filter(({ verdict }) => isJoining(verdict)),
        (arrival) => Date.parse(arrival.at),
      )
      if (joined === undefined) return ['ready', 'The list stands. Nobody has joined through this form yet.']
      const joinedBy = subject.versions.find(({ number }) => number === joined.version)
      return joinedBy !== undefined && joinedBy.list !== subject.form.list
        ? ['changed', 'The form feeds another list than when people joined.']
        : ['proven', 'Real people who signed up through this form are in the list.']
    }
  }
}

const caseNames: Record<Outcome, string> = {
  joined: 'to who joins',
  'confirm-first': 'to who has to confirm',
  'already-on-list': 'to who is on the list already',
  'message-sent': 'to who sends a message and joins nothing',
}

function mailState({ mail }: LineSubject): State {
  if (!mail || messagesInUse(mail.draft).length === 0)
    return ['empty', 'No mail is sent: whoever signs up is on the list at once.']
  return mail.published === null
    ? ['needs-work', 'The mail is written but not published: nothing of it is sent yet.']
    : ['ready', 'The mail is ready. No rehearsal has followed it yet.']
}

/** Case by case, and only by what was really shown. */
function answerState({ form: { draft }, versions, mail }: LineSubject, arrivals: readonly RealSignUp[]): State {
  const states = outcomesWith(mail?.published ?? null).map((one): readonly [Signal, string] => {
    // We send people there, and do not know what they find.
    if (draft.answers[one]?.show === 'address')
      return [
        'ready',
        `The answer ${caseNames[one]} is a page of your own. Nobody here has looked whether it is there.`,
      ]
    const shown = newest(
      arrivals.filter(({ verdict }) => verdict === one),
      (arrival) => Date.parse(arrival.at),
    )
    const seen = versions.find(({ number }) => number === shown?.version)
    if (seen === undefined) return ['ready', `The answer ${caseNames[one]} is written. Nobody has been shown it yet.`]
    return sameValue(answered(draft, one), answered(seen.content, one))
      ? ['proven', '']
      : ['changed', `The answer ${caseNames[one]} was changed since somebody was shown it.`]
  })
  const worst = states.reduce((one, other) => (worstFirst.indexOf(other[0]) < worstFirst.indexOf(one[0]) ? other : one))
  return worst[0] === 'proven' ? ['proven', 'Real visitors were shown exactly these answers, in each case.'] : worst
}

/** What the Form station shows. */
function asked({ answers: _, shape: _shape, ...rest }: FormContent) {
  return rest
}

/** What the Answer station shows of one case: the answer, in the form's look and language. */
function answered(content: FormContent, one: AnswerCase) {
  const { answers, look, language, texts } = content
  return { answer: answers[one], look, language, texts }
}

function newest<T>(all: readonly T[], order: (one: T) => number): T | undefined {
  return all.reduce<T | undefined>(
    (best, one) => (best === undefined || order(one) > order(best) ? one : best),
    undefined,
  )
}
