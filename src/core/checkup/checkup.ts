import { codeReachProblem } from '#core/embed'
import { answerCases, type AnswerCase, type Form } from '#core/form'
import type { List } from '#core/list'
import { quietPalette } from '#core/look'
import type { Picture } from '#core/picture'
import { addressProblem, type Site } from '#core/site'
import type { Spot } from '#core/spot'
import { askingFindings } from './asking'
import { brokenFindings } from './broken'
import { contrastFindings } from './contrast'
import { type Finding, stations, type Weight } from './finding'
import { fitFindings, lookFindings } from './fit'
import { type Measures, nothingMeasured } from './measures'
import { offerFindings } from './offer'

export interface CheckupSubject {
  form: Form
  list: List | null
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

const caseNames: Record<AnswerCase, string> = { joined: 'someone who joined', 'already-on-list': 'someone already on the list' }

/** Everything that a look at the form finds, in the order of the line, what stops publishing first. */
export function checkup(subject: CheckupSubject): Finding[] {
  const weights: Weight[] = ['stops', 'fault', 'hint']
  return [...spotFindings(subject), ...formFindings(subject), ...answerFindings(subject), ...listFindings(subject)].sort(
    (one, other) => stations.indexOf(one.station) - stations.indexOf(other.station) || weights.indexOf(one.weight) - weights.indexOf(other.weight),
  )
}

function spotFindings({ spots, sites, receiver }: CheckupSubject): Finding[] {
  const live = spots.filter((spot) => spot.state === 'live')
  if (live.length === 0) return [{ station: 'spot', code: 'no-spot', weight: 'stops', message: 'The form has no place on any site.' }]
  return live.flatMap((spot): Finding[] => {
    const site = sites.find((one) => one.id === spot.site)
    if (site === undefined) return [{ station: 'spot', code: 'no-site', weight: 'stops', about: spot.id, message: 'The site of this spot does not exist any more.' }]
    const problem = addressProblem(site.address)
    if (problem !== null) return [{ station: 'spot', code: 'site-address', weight: 'stops', about: spot.id, message: `The address of ${site.name}: ${problem}` }]
    const reach = receiver === null ? null : codeReachProblem(receiver, site)
    return reach === null ? [] : [{ station: 'spot', code: 'receiver-not-public', weight: 'stops', about: spot.id, message: reach }]
  })
}

function formFindings({ form, list, sites, spots, pictures, videoHosts, measures = nothingMeasured }: CheckupSubject): Finding[] {
  const { draft } = form
  const palette = sites.find(({ id }) => id === spots[0]?.site)?.palette ?? quietPalette
  return [
    ...brokenFindings(draft, pictures, videoHosts),
    ...askingFindings(draft, list),
    ...contrastFindings(draft, palette.background, measures),
    ...lookFindings(draft),
    ...fitFindings(measures),
    ...offerFindings(draft),
  ]
}

function answerFindings({ form }: CheckupSubject): Finding[] {
  return answerCases.flatMap((about): Finding[] => {
    const answer = form.draft.answers[about]
    if (answer.show === 'message') {
      const saysNothing = answer.heading.trim() === '' && answer.message.trim() === ''
      return saysNothing ? [{ station: 'answer', code: 'message-empty', weight: 'stops', about, message: `The message for ${caseNames[about]} is empty.` }] : []
    }
    const problem = addressProblem(answer.address)
    return problem === null ? [] : [{ station: 'answer', code: 'address-invalid', weight: 'stops', about, message: `The page for ${caseNames[about]}: ${problem}` }]
  })
}

function listFindings({ list }: CheckupSubject): Finding[] {
  return list === null ? [{ station: 'list', code: 'no-list', weight: 'stops', message: 'The list this form feeds does not exist any more.' }] : []
}
