import type { Field, FieldKey, FormContent } from '#core/form'

/** What somebody answers to one field: typed, chosen by keys, ticked, or in parts. */
export type PersonAnswer =
  | { text: string }
  | { choices: readonly string[] }
  | { isTicked: boolean }
  | { parts: Readonly<Record<string, string>> }

/** By key of the field; what is not asked of this person is not in it. */
export type PersonAnswers = Readonly<Record<FieldKey, PersonAnswer>>

/** A made-up person who answers every question that she sees. */
export function personFor({ fields }: Pick<FormContent, 'fields'>, email: string): PersonAnswers {
  const answers: Record<FieldKey, PersonAnswer> = {}
  for (const field of fields) {
    const answer = field.kind === 'email' ? { text: email } : answerTo(field)
    if (answer !== null && isSeen(field, fields, answers)) answers[field.key] = answer
  }
  return answers
}

/** Fields in which a name, or anything on one line, can be written. */
export function nameFields({ fields }: Pick<FormContent, 'fields'>): Field[] {
  return fields.filter(({ kind }) => ['first-name', 'last-name', 'full-name', 'line'].includes(kind))
}

/** Names that lists have to keep as they are, each with what is unusual about it. All invented. */
export const unusualNames: readonly { what: string; name: string }[] = [
  { what: 'as long as a line may be', name: `Wilhelmina ${'Augustine '.repeat(18)}Ørn`.slice(0, 200) },
  { what: 'accented', name: 'Zoë Ångström-Müller' },
  { what: 'with two kinds of apostrophe', name: "Siobhán O’Brien D'Arcy & Søn" },
  { what: 'from right to left', name: 'نورة بنت فهد' },
  { what: 'in characters beyond the first plane', name: '𠮷田 光 🌙' },
  { what: 'that looks like script', name: '<script>alert(1)</script>' },
  { what: 'that looks like a formula', name: '=HYPERLINK("https://x.example","x")' },
]

/** Addresses that no list can take. HTML Living Standard, section 4.10.5.1.5; RFC 5321, section 4.5.3.1. */
export const wrongAddresses: readonly { what: string; address: string; wrong: 'invalid' | 'too-long' }[] = [
  { what: 'with no @', address: 'ilse.people.example', wrong: 'invalid' },
  { what: 'with nothing before the @', address: '@people.example', wrong: 'invalid' },
  { what: 'with nothing after the @', address: 'ilse@', wrong: 'invalid' },
  { what: 'with a space inside', address: 'ilse brandvold@people.example', wrong: 'invalid' },
  { what: 'with two @', address: 'ilse@@people.example', wrong: 'invalid' },
  { what: 'with a comma in the domain', address: 'ilse@people,example', wrong: 'invalid' },
  { what: 'with two dots in a row', address: 'ilse@people..example', wrong: 'invalid' },
  { what: 'longer than mail allows', address: `${'i'.repeat(65)}@people.example`, wrong: 'too-long' },
]

/** What a made-up person writes to the owner. */
export const MADE_UP_MESSAGE = 'Is it open on a Sunday?\nI come from far, with “two” children & a dog.'

function answerTo(field: Field): PersonAnswer | null {
  switch (field.kind) {
    case 'first-name':
      return { text: 'Ilse' }
    case 'last-name':
      return { text: 'Brandvold' }
    case 'full-name':
      return { text: 'Ilse Brandvold' }
    case 'line':
      return { text: 'Seen on the notice board' }
    case 'text':
      return { text: 'The first line.\nThe second, with “quotes”.' }
    case 'phone':
      // Of a range that is kept free for drama (common practice, from memory).
      return { text: '+44 20 7946 0958' }
    case 'website':
      return { text: 'https://people.example/ilse' }
    case 'date':
      return { text: '2001-02-03' }
    case 'address':
      return {
        parts: { street: 'Quarry Lane 7', 'postal-code': 'CB1 2XY', city: 'Lower Cloudberry', country: 'Northland' },
      }
    case 'birthday':
      return { parts: { day: '12', month: '4', ...(field.withYear && { year: '1990' }) } }
    case 'number':
      return { text: String(field.least ?? Math.min(field.most ?? 7, 7)) }
    case 'choose-one':
      return { choices: field.choices.slice(0, 1).map(({ key }) => key) }
    case 'choose-several':
      return { choices: field.choices.slice(0, 2).map(({ key }) => key) }
    case 'topics':
      return { choices: field.choices.slice(0, 2).map(({ key }) => key) }
    case 'message':
      return { text: MADE_UP_MESSAGE }
    case 'subject':
      return { text: 'A question about the opening hours' }
    case 'consent':
    case 'join-box':
      return { isTicked: true }
    case 'email':
    case 'hidden':
      return null
  }
}

/** Whether somebody is asked a question at all, by what she answered to those that it depends on. */
export function isSeen(field: Field, fields: readonly Field[], answers: PersonAnswers, depth = 0): boolean {
  const rule = field.showWhen
  if (rule === null || depth > fields.length) return true
  const other = fields.find(({ key }) => key === rule.field)
  if (other === undefined) return true
  const answer = Object.hasOwn(answers, other.key) ? answers[other.key] : undefined
  const chosen =
    answer === undefined
      ? []
      : 'choices' in answer
        ? answer.choices
        : 'isTicked' in answer && answer.isTicked
          ? ['on']
          : []
  return chosen.some((one) => rule.is.includes(one)) && isSeen(other, fields, answers, depth + 1)
}
