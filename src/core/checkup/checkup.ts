import { codeReachProblem } from '#core/embed'
import { answerCases, type AnswerCase, type Form } from '#core/form'
import { columnsOf, type List } from '#core/list'
import { addressProblem, type Site } from '#core/site'
import type { Spot } from '#core/spot'

/** The line, left to right. */
export const stations = ['spot', 'form', 'answer', 'mail', 'list'] as const
export type Station = (typeof stations)[number]

/** Something about a form that keeps it from working, with what to do about it. */
export interface Finding {
  station: Station
  code: string
  message: string
  /** What it is about, where a station has several such things: a spot's id, a field's key, an answer's case. */
  about?: string
}

export interface CheckupSubject {
  form: Form
  list: List | null
  /** Those of this form. */
  spots: readonly Spot[]
  sites: readonly Site[]
  /** Where visitors reach the receiver; null while the workshop is not paired. */
  receiver: string | null
}

const caseNames: Record<AnswerCase, string> = { joined: 'someone who joined', 'already-on-list': 'someone already on the list' }

/** What has to be mended before the form can be published, in the order of the line. */
export function checkup(subject: CheckupSubject): Finding[] {
  return [...spotFindings(subject), ...formFindings(subject), ...answerFindings(subject), ...listFindings(subject)]
}

function spotFindings({ spots, sites, receiver }: CheckupSubject): Finding[] {
  const live = spots.filter((spot) => spot.state === 'live')
  if (live.length === 0) return [{ station: 'spot', code: 'no-spot', message: 'The form has no place on any site.' }]
  return live.flatMap((spot): Finding[] => {
    const site = sites.find((one) => one.id === spot.site)
    if (site === undefined) return [{ station: 'spot', code: 'no-site', about: spot.id, message: 'The site of this spot does not exist any more.' }]
    const problem = addressProblem(site.address)
    if (problem !== null) return [{ station: 'spot', code: 'site-address', about: spot.id, message: `The address of ${site.name}: ${problem}` }]
    const reach = receiver === null ? null : codeReachProblem(receiver, site)
    return reach === null ? [] : [{ station: 'spot', code: 'receiver-not-public', about: spot.id, message: reach }]
  })
}

function formFindings({ form }: CheckupSubject): Finding[] {
  const { words, fields } = form.draft
  const findings: Finding[] = fields
    .filter((field) => field.label.trim() === '')
    .map((field) => ({ station: 'form', code: 'label-empty', about: field.key, message: 'A field has no label, so screen readers cannot say what it asks.' }))
  if (words.button.trim() === '') findings.push({ station: 'form', code: 'button-empty', message: 'The button says nothing.' })
  return findings
}

function answerFindings({ form }: CheckupSubject): Finding[] {
  return answerCases.flatMap((about): Finding[] => {
    const answer = form.draft.answers[about]
    if (answer.show === 'message') {
      const saysNothing = answer.heading.trim() === '' && answer.message.trim() === ''
      return saysNothing ? [{ station: 'answer', code: 'message-empty', about, message: `The message for ${caseNames[about]} is empty.` }] : []
    }
    const problem = addressProblem(answer.address)
    return problem === null ? [] : [{ station: 'answer', code: 'address-invalid', about, message: `The page for ${caseNames[about]}: ${problem}` }]
  })
}

function listFindings({ form, list }: CheckupSubject): Finding[] {
  if (list === null) return [{ station: 'list', code: 'no-list', message: 'The list this form feeds does not exist any more.' }]
  const columns = new Set(columnsOf(list).map((column) => column.key))
  return form.draft.fields
    .filter((field) => !columns.has(field.column))
    .map((field) => ({ station: 'list', code: 'no-column', about: field.key, message: `“${field.label}” is asked, but the list has no column that keeps it.` }))
}
