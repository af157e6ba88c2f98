import { type Station, stations } from '#core/station'
import { codeReachProblem, popUpProblem } from '#core/embed'
import { type Answer, answerCases, type AnswerCase, answerTo, type Form, type FormContent } from '#core/form'
import type { List } from '#core/list'
import { quietPalette } from '#core/look'
import { type Mail, mailProblems } from '#core/mail'
import type { Picture } from '#core/picture'
import { addressProblem, type Site } from '#core/site'
import type { Language } from '#core/texts'
import type { Spot } from '#core/spot'
import { askingFindings } from './asking'
import { brokenFindings } from './broken'
import { contrastFindings } from './contrast'
import { type Finding, type Weight } from './finding'
import { firstScreenFindings, fitFindings, lookFindings } from './fit'
import { languageFindings } from './language'
import { messageFindings } from './messages'
import { type Measures, nothingMeasured } from './measures'
import { offerFindings } from './offer'
import { twoBoxes } from './two-boxes'
import { ownCssFindings } from './own-css'

export interface CheckupSubject {
  form: Form
  list: List | null
  /** The list's mail; missing or null where it sends none. */
  mail?: Mail | null
  /** Languages of the other forms that feed the list. */
  otherLanguages?: readonly Language[]
  /** Those of this form. */
  spots: readonly Spot[]
  sites: readonly Site[]
  /** Where visitors reach the receiver; null while the workshop is not paired. */
  receiver: string | null
  pictures: readonly Picture[]
  /** Hosts whose videos the owner allows; null where that is not known. */
  videoHosts: readonly string[] | null
  /** What the rendering showed; nothing until it was measured. */
  measures?: Measures
}

const caseNames: Record<AnswerCase, string> = {
  joined: 'someone who joined',
  'already-on-list': 'someone already on the list',
  'confirm-first': 'someone who has to confirm',
  'already-waiting': 'someone who has yet to confirm',
  'message-sent': 'someone who sent a message and joined nothing',
  confirmed: 'someone who confirmed',
  'link-expired': 'a link that is used up',
  left: 'someone who left',
  'not-possible': 'a sign-up that could not be taken',
}

/** What a form that posts straight to a service does not need: our columns, answers, mail, and a receiver that is reached. */
const NOT_OF_DIRECT = new Set([
  'no-column',
  'column-missing',
  'column-twice',
  'receiver-not-public',
  'messages-nowhere',
])
const isOfDirect = (station: Station, code: string) =>
  (station === 'spot' || station === 'form') && !NOT_OF_DIRECT.has(code)

/** Everything that a look at the form finds, in the order of the line, what stops publishing first. */
export function checkup(subject: CheckupSubject): Finding[] {
  const weights: Weight[] = ['stops', 'fault', 'hint']
  return [
    ...spotFindings(subject),
    ...formFindings(subject),
    ...answerFindings(subject),
    ...unseenPageFindings(subject),
    ...knownFindings(subject),
    ...languageFindings(subject.form.draft, subject.mail?.draft ?? null, subject.otherLanguages),
    ...mailFindings(subject),
    ...listFindings(subject),
  ]
    .filter(({ station, code }) => subject.form.draft.direct === undefined || isOfDirect(station, code))
    .sort(
      (one, other) =>
        stations.indexOf(one.station) - stations.indexOf(other.station) ||
        weights.indexOf(one.weight) - weights.indexOf(other.weight),
    )
}

function spotFindings({ spots, sites, receiver }: CheckupSubject): Finding[] {
  const live = spots.filter((spot) => spot.state === 'live')
  if (live.length === 0)
    return [
      {
        station: 'spot',
        code: 'no-spot',
        weight: 'stops',
        message: spots.some(({ state }) => state === 'paused')
          ? 'Where it stands, it is paused: nobody can sign up by it until a spot is live again.'
          : 'The form has no place on any site.',
      },
    ]
  return live.flatMap((spot): Finding[] => {
    const site = sites.find((one) => one.id === spot.site)
    if (site === undefined)
      return [
        {
          station: 'spot',
          code: 'no-site',
          weight: 'stops',
          about: spot.id,
          message: 'The site of this spot does not exist any more.',
        },
      ]
    const problem = addressProblem(site.address)
    if (problem !== null)
      return [
        {
          station: 'spot',
          code: 'site-address',
          weight: 'stops',
          about: spot.id,
          message: `The address of ${site.name}: ${problem}`,
        },
      ]
    const noPopUp = spot.kind === 'pop-up' ? popUpProblem(site) : null
    if (noPopUp !== null)
      return [{ station: 'spot', code: 'pop-up-nowhere', weight: 'fault', about: spot.id, message: noPopUp }]
    const reach = receiver === null ? null : codeReachProblem(receiver, site)
    return reach === null
      ? []
      : [{ station: 'spot', code: 'receiver-not-public', weight: 'fault', about: spot.id, message: reach }]
  })
}

function formFindings({
  form,
  list,
  sites,
  spots,
  pictures,
  videoHosts,
  mail = null,
  measures = nothingMeasured,
}: CheckupSubject): Finding[] {
  const { draft } = form
  return [
    ...brokenFindings(draft, pictures, videoHosts),
    ...askingFindings(draft, list, spots, sites),
    ...contrastFindings(draft, standsOn(draft, spots, sites), measures),
    ...lookFindings(draft),
    ...ownCssFindings(draft, measures.drawn),
    ...fitFindings(measures),
    ...firstScreenFindings(measures),
    ...offerFindings(draft, mail?.draft ?? null),
    ...twoBoxes(draft),
    ...messageFindings(draft, mail?.draft ?? null),
  ]
}

/** What is behind a form without a ground of its own, at each place where it sits. A landing page has the form's own background. */
function standsOn({ look }: FormContent, spots: readonly Spot[], sites: readonly Site[]): string[] {
  const live = spots.filter(({ state }) => state === 'live')
  const grounds = live.map(({ kind, site }) =>
    kind === 'landing'
      ? look.colours.background
      : (sites.find(({ id }) => id === site)?.palette ?? quietPalette).background,
  )
  return grounds.length === 0 ? [quietPalette.background] : [...new Set(grounds)]
}

function answerFindings({ form }: CheckupSubject): Finding[] {
  return answerCases.flatMap((about): Finding[] => {
    // What its owner did not write says something of ours.
    const answer = form.draft.answers[about]
    if (answer === undefined) return []
    if (answer.show === 'message') {
      const saysNothing = answer.heading.trim() === '' && answer.message.trim() === ''
      return saysNothing
        ? [
            {
              station: 'answer',
              code: 'message-empty',
              weight: 'stops',
              about,
              message: `The message for ${caseNames[about]} is empty.`,
            },
          ]
        : []
    }
    const problem = addressProblem(answer.address)
    return problem === null
      ? []
      : [
          {
            station: 'answer',
            code: 'address-invalid',
            weight: 'stops',
            about,
            message: `The page for ${caseNames[about]}: ${problem}`,
          },
        ]
  })
}

/**
 * A page of the owner's that visitors never get to, because of who confirms by mail: right after the button they join, or
 * are told to look in their inbox, and after that press it is another answer.
 */
function unseenPageFindings({ form, mail }: CheckupSubject): Finding[] {
  const { answers } = form.draft
  const { confirm = 'never' } = mail?.draft ?? {}
  const [unseen, seen] = (
    {
      never: [['confirm-first', 'confirmed'], ['joined']],
      always: [['joined'], ['confirmed', 'confirm-first']],
      regions: [['joined'], ['confirmed', 'confirm-first']],
    } satisfies Record<string, [AnswerCase[], AnswerCase[]]>
  )[confirm] as [AnswerCase[], AnswerCase[]]
  const pageOf = (one: AnswerCase) => (answers[one]?.show === 'address' ? answers[one].address.trim() : '')
  const isShown = seen.some((one) => pageOf(one) !== '')
  return unseen.flatMap((about): Finding[] => {
    const page = pageOf(about)
    if (page === '' || addressProblem(page) !== null || isShown) return []
    const name = pageName(page)
    return [
      {
        station: 'answer',
        code: 'page-unseen',
        weight: confirm === 'regions' ? 'hint' : 'fault',
        about,
        message: {
          never: `Nobody gets to your page ${name}: it is for ${caseNames[about]}, and nobody has to confirm.`,
          always: `Nobody gets to your page ${name}: everybody confirms by mail first, and it stands for people who join at once.`,
          regions: `Who has to confirm by mail does not get to your page ${name}: it stands for people who join at once.`,
        }[confirm],
        mend: {
          name: confirm === 'never' ? 'Show it right after the button' : 'Show it after confirming',
          apply: (changed) => ({
            ...changed,
            answers: {
              ...changed.answers,
              [seen[0]!]: {
                ...answerTo(changed, seen[0]!),
                ...changed.answers[about],
                ...wordsOf(answerTo(changed, seen[0]!)),
              },
            },
          }),
        },
      },
    ]
  })
}
const wordsOf = ({ heading, message }: Answer) => ({ heading, message })
/** A page as its owner knows it: without what every address begins with. */
const pageName = (page: string) => `“${page.replace(/^https?:\/\//, '')}”`

/** What stands in the form's place for who comes back. */
function knownFindings({ form }: CheckupSubject): Finding[] {
  const { known } = form.draft
  if (known === undefined) return []
  const isEmpty = known.heading.trim() === '' && known.message.trim() === '' && known.link.address.trim() === ''
  const problem = known.link.address.trim() === '' ? null : addressProblem(known.link.address)
  const at = { station: 'answer', weight: 'stops', about: 'known' } as const
  return [
    ...(isEmpty ? [{ ...at, code: 'known-empty', message: 'What somebody sees who comes back is empty.' }] : []),
    ...(problem === null
      ? []
      : [{ ...at, code: 'known-address', message: `The link for somebody who comes back: ${problem}` }]),
  ]
}

function mailFindings({ mail }: CheckupSubject): Finding[] {
  if (!mail) return []
  return mailProblems(mail.draft).map(({ code, about, stops, message, reason }) => ({
    station: 'mail',
    code: `mail-${code}`,
    weight: stops ? 'stops' : 'hint',
    about,
    message,
    reason,
  }))
}

function listFindings({ list }: CheckupSubject): Finding[] {
  return list === null
    ? [
        {
          station: 'list',
          code: 'no-list',
          weight: 'stops',
          message: 'The list this form feeds does not exist any more.',
        },
      ]
    : []
}
