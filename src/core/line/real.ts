import type { Outcome } from '#core/form'
import { sameValue } from '#core/json'
import { isJoining } from '#core/list'
import { messagesInUse, outcomesWith } from '#core/mail'
import type { Spot } from '#core/spot'
import type { Station } from '#core/station'
import { answered, asked, latestOf, newest } from './shown'
import { type LineSubject, type RealSignUp, type Signal, type State, worstFirst } from './signal'

/** By the newest sign-ups of real people: they prove what they went through, and nothing else. */
export function realState(
  station: Station,
  subject: LineSubject,
  spot: Spot | null,
  arrivals: readonly RealSignUp[],
): State {
  switch (station) {
    case 'spot':
      return spotState(subject, spot?.kind === 'landing', arrivals)
    case 'form':
      return formState(subject, arrivals)
    case 'answer':
      return answerState(subject, arrivals)
    case 'mail':
      return mailState(subject)
    case 'list':
      return listState(subject, arrivals)
  }
}

/** The version that the newest visitor saw. */
function newestSeen({ versions }: LineSubject, arrivals: readonly RealSignUp[]) {
  const arrival = newest(arrivals, (one) => Date.parse(one.at))
  return versions.find((version) => version.number === arrival?.version)
}

function spotState(subject: LineSubject, isPage: boolean, arrivals: readonly RealSignUp[]): State {
  const latest = latestOf(subject.versions)
  const seen = newestSeen(subject, arrivals)
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
  return seen.isTried && seen.number > latest.number
    ? ['proven', 'A real sign-up came through one of the wordings that are tried there.']
    : ['changed', `The newest sign-up came through version ${seen.number}; version ${latest.number} is published.`]
}

function formState(subject: LineSubject, arrivals: readonly RealSignUp[]): State {
  const { draft } = subject.form
  const latest = latestOf(subject.versions)
  const seen = newestSeen(subject, arrivals)
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
}

function listState({ form, versions }: LineSubject, arrivals: readonly RealSignUp[]): State {
  const joined = newest(
    arrivals.filter(({ verdict }) => isJoining(verdict)),
    (arrival) => Date.parse(arrival.at),
  )
  if (joined === undefined) return ['ready', 'The list stands. Nobody has joined through this form yet.']
  const joinedBy = versions.find(({ number }) => number === joined.version)
  return joinedBy !== undefined && joinedBy.list !== form.list
    ? ['changed', 'The form feeds another list than when people joined.']
    : ['proven', 'Real people who signed up through this form are in the list.']
}

const caseNames: Record<Outcome, string> = {
  joined: 'to who joins',
  'confirm-first': 'to who has to confirm',
  'already-on-list': 'to who is on the list already',
  'message-sent': 'to who sends a message and joins nothing',
}

function mailState({ mail }: LineSubject): State {
  if (!mail)
    return [
      'empty',
      'No mail is sent yet: what stands below waits for a sender, and to be published. Whoever signs up is on the list at once.',
    ]
  if (messagesInUse(mail.draft).length === 0)
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
