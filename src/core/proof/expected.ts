import { type AnswerCase, answerTo, type Field, type FormContent, isBox, ownPageOf } from '#core/form'
import type { MailSettings } from '#core/mail'
import { plainText } from '#core/text'
import { textsOf } from '#core/texts'
import { isSeen, type PersonAnswer, type PersonAnswers } from './person'

/*
 * What has to come of a sign-up, from the form's own settings alone: nothing here asks the code that takes sign-ups.
 */

export interface ExpectedMember {
  typed: string
  status: 'confirmed' | 'waiting'
  /** By column of the list; empty answers left out. */
  values: Record<string, string>
  tags: string[]
  /** Wordings of the boxes that were ticked. */
  consents: string[]
}

/** How the list has to know somebody who answered so. `email` is the address as it was typed. */
export function expectedMember(
  { fields, tags: given }: FormContent,
  answers: PersonAnswers,
  email: string,
  status: ExpectedMember['status'] = 'confirmed',
): ExpectedMember {
  const values = new Map<string, string[]>()
  const tags = new Set<string>(given)
  const consents: string[] = []
  for (const field of fields) {
    if (field.kind === 'email' || !isSeen(field, fields, answers)) continue
    const answer = answers[field.key]
    if (field.kind === 'topics') for (const label of labelsOf(field, answer)) tags.add(label.trim())
    if (isBox(field) && answer !== undefined && 'isTicked' in answer && answer.isTicked)
      consents.push(plainText(field.wording))
    const text = keptText(field, answer)
    if (field.column !== '' && text !== '') values.set(field.column, [...(values.get(field.column) ?? []), text])
  }
  return {
    typed: email.trim(),
    status,
    values: Object.fromEntries([...values].map(([column, texts]) => [column, texts.join(', ')])),
    tags: [...tags],
    consents,
  }
}

/** An answer as a list keeps it. */
function keptText(field: Field, answer: PersonAnswer | undefined): string {
  if (field.kind === 'hidden') return field.source === 'fixed' ? field.value.trim() : ''
  if (answer === undefined) return ''
  if ('choices' in answer) return labelsOf(field, answer).join(', ')
  if ('isTicked' in answer) return answer.isTicked ? 'yes' : ''
  if ('parts' in answer) {
    const { parts } = answer
    if (field.kind !== 'birthday')
      return ['street', 'postal-code', 'city', 'country']
        .map((part) => parts[part] ?? '')
        .filter(Boolean)
        .join(', ')
    const two = (part: string) => (parts[part] ?? '').padStart(2, '0')
    // ISO 8601; without a year as in XML Schema’s gMonthDay.
    return `${field.withYear ? (parts.year ?? '').padStart(4, '0') : '-'}-${two('month')}-${two('day')}`
  }
  return answer.text.trim()
}

function labelsOf(field: Field, answer: PersonAnswer | undefined): string[] {
  if (!('choices' in field) || answer === undefined || !('choices' in answer)) return []
  return field.choices.filter(({ key }) => answer.choices.includes(key)).map(({ label }) => label)
}

export type ExpectedAnswer = { kind: 'words'; heading: string; message: string } | { kind: 'own-page'; address: string }

/** What whoever sent the form with these answers has to be shown. */
export function expectedAnswer(content: FormContent, one: AnswerCase, answers: PersonAnswers = {}): ExpectedAnswer {
  const answer = answerTo(content, one)
  const { show, heading, message, address } = answer
  if (show === 'message') return { kind: 'words', heading, message }
  const { fields } = content
  const page = ownPageOf(answer, (key) => {
    const field = fields.find((field) => field.key === key)
    return field === undefined || !isSeen(field, fields, answers) ? '' : keptText(field, answers[key])
  })
  return { kind: 'own-page', address: page ?? address.trim() }
}

/** The message beside a field: in the owner's words, else in ours. */
export function expectedError(
  { language, texts }: FormContent,
  field: Field,
  wrong: 'missing' | 'invalid' | 'too-long',
): string {
  const own = field.error.trim()
  if (own !== '') return own
  const all = textsOf(language, texts)
  const words =
    field.kind === 'email'
      ? { missing: all.missingEmail, invalid: all.invalidEmail, 'too-long': all.longEmail }[wrong]
      : field.kind === 'consent'
        ? all.missingConsent
        : 'choices' in field
          ? all.missingChoice
          : all.missing
  return words.replaceAll('{label}', field.label.trim() || field.key)
}

/** Required fields that somebody who leaves everything empty is asked for again. */
export function requiredFields({ fields }: FormContent): Field[] {
  return fields.filter((field) => field.kind !== 'hidden' && field.required && isSeen(field, fields, {}))
}

/** What the settings of a list's mail say of somebody new: whether the address has to be confirmed. */
export function expectedOutcome(
  mail: Pick<MailSettings, 'confirm' | 'regions' | 'isDiscreet'> | null,
  country: string | null,
): { joins: 'joined' | 'confirm-first'; again: AnswerCase; bot: 'joined' | 'confirm-first' } {
  const confirms =
    mail !== null &&
    (mail.confirm === 'always' || (mail.confirm === 'regions' && (country === null || mail.regions.includes(country))))
  const joins = confirms ? 'confirm-first' : 'joined'
  return { joins, bot: joins, again: mail?.isDiscreet ? joins : confirms ? 'already-waiting' : 'already-on-list' }
}
