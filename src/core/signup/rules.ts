import { readTyped } from '#core/email'
import type { BoxKind, Field, FieldKey, ForKinds, FormedKind, LineKind, LongKind } from '#core/form'
import type { InterfaceTexts } from '#core/texts'

/*
 * The rules that an answer has to keep to. The picture, the visitor's browser and the receiver all use these
 * functions, so they need neither Zod nor anything else of core's but the address parser.
 */

/** What came in, by name of the control, each a single text. */
export type PostedValues = Record<string, string>

export interface FieldError {
  field: FieldKey
  code: 'missing' | 'invalid' | 'too-long' | 'too-small' | 'too-large'
  /** Plain words for the visitor. */
  message: string
}

/** The text of one control, empty for none. People name their fields as they like, `constructor` too. */
export function valueIn(values: PostedValues, name: string): string {
  return Object.hasOwn(values, name) ? (values[name] ?? '') : ''
}

/** Longest answer to a one-line question, in UTF-16 code units as HTML's `maxlength` counts. */
export const MAX_LINE_LENGTH = 200
export const MAX_LONG_LENGTH = 5_000

/** The parts of a postal address, by their names in posts. */
export const addressParts = ['street', 'postal-code', 'city', 'country'] as const
/** A country is where most of a form's visitors are, or can be told from the city. */
export const isNeededPart = (part: string) => part !== 'country'
export const birthdayParts = ['day', 'month', 'year'] as const

/** The controls a field consists of, by name, in their order. */
export function controlNames(field: Field): string[] {
  switch (field.kind) {
    case 'address':
      return addressParts.map((part) => `${field.key}-${part}`)
    case 'birthday':
      return birthdayParts.filter((part) => field.withYear || part !== 'year').map((part) => `${field.key}-${part}`)
    case 'choose-several':
    case 'topics':
      return field.choices.map(({ key }) => `${field.key}--${key}`)
    default:
      // A new kind has to be said here: the compiler holds what is left against these.
      return [field.key] as ForKinds<
        LineKind | FormedKind | LongKind | 'choose-one' | BoxKind | 'hidden',
        typeof field.kind,
        string[]
      >
  }
}

/** Keys of the choices that were made; a ticked box gives `on`. */
export function chosenIn(field: Field, values: PostedValues): string[] {
  switch (field.kind) {
    case 'choose-one':
      return valueIn(values, field.key) ? [valueIn(values, field.key)] : []
    case 'choose-several':
    case 'topics':
      return field.choices.filter(({ key }) => valueIn(values, `${field.key}--${key}`)).map(({ key }) => key)
    case 'consent':
      return valueIn(values, field.key) ? ['on'] : []
    default:
      return [] as ForKinds<
        LineKind | FormedKind | LongKind | 'address' | 'birthday' | 'join-box' | 'hidden',
        typeof field.kind,
        string[]
      >
  }
}

/** Whether a field is asked, given the other answers: its own condition holds, and so does that of what it depends on. */
export function isAsked(
  field: Field,
  fields: readonly Field[],
  values: PostedValues,
  seen: readonly FieldKey[] = [],
): boolean {
  const rule = field.showWhen
  if (rule === null) return true
  const other = fields.find(({ key }) => key === rule.field)
  if (other === undefined || seen.includes(other.key)) return true
  return (
    chosenIn(other, values).some((answer) => rule.is.includes(answer)) &&
    isAsked(other, fields, values, [...seen, field.key])
  )
}

/**
 * The answer as one text, as it is kept: parts joined, choices by their labels, dates in ISO 8601
 * (`--04-12` for a day and month, as in XML Schema's `gMonthDay`). Empty for no answer.
 */
export function answerIn(field: Field, values: PostedValues): string {
  switch (field.kind) {
    case 'address':
      return controlNames(field)
        .map((name) => oneLine(valueIn(values, name)))
        .filter(Boolean)
        .join(', ')
    case 'birthday': {
      const [day = '', month = '', year = ''] = controlNames(field).map((name) => valueIn(values, name).trim())
      if (day + month + year === '') return ''
      return `${field.withYear ? year.padStart(4, '0') : '-'}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`
    }
    case 'choose-one':
    case 'choose-several':
    case 'topics':
      return chosenIn(field, values)
        .map((key) => field.choices.find((choice) => choice.key === key)?.label ?? key)
        .join(', ')
    case 'text':
    case 'message':
      return plainBreaks(valueIn(values, field.key)).trim()
    case 'website':
      return withScheme(oneLine(valueIn(values, field.key)))
    case 'hidden':
      return field.source === 'fixed'
        ? oneLine(field.value)
        : oneLine(valueIn(values, field.key)).slice(0, MAX_LINE_LENGTH)
    default:
      return oneLine(valueIn(values, field.key)) as ForKinds<
        LineKind | Exclude<FormedKind, 'website'> | BoxKind,
        typeof field.kind,
        string
      >
  }
}

/** A web address as people type it, `shop.example/walks`, with what they leave out. */
const withScheme = (typed: string) => (/^[^\s:/@.]+(\.[^\s:/@.]+)+(\/|$)/.test(typed) ? 'https://' + typed : typed)

/** Everything that is wrong with the answers, in the order of the fields. Empty when they can be taken. */
export function fieldErrors(fields: readonly Field[], values: PostedValues, texts: InterfaceTexts): FieldError[] {
  return fields.flatMap((field) => (isAsked(field, fields, values) ? (errorIn(field, values, texts) ?? []) : []))
}

type Wrong = [code: FieldError['code'], text: keyof InterfaceTexts, values?: Record<string, string | number>]

/** What is wrong with one field's answer, in the owner's words for it or in ours; null when it can be taken. */
export function errorIn(field: Field, values: PostedValues, texts: InterfaceTexts): FieldError | null {
  const wrong = wrongIn(field, values)
  if (wrong === null) return null
  const [code, text, more = {}] = wrong
  const names: Record<string, string | number> = { label: field.label.trim() || field.key, ...more }
  const message =
    field.error.trim() ||
    texts[text].replace(/\{(\w+)\}/g, (whole, name: string) =>
      Object.hasOwn(names, name) ? String(names[name]) : whole,
    )
  return { field: field.key, code, message }
}

function wrongIn(field: Field, values: PostedValues): Wrong | null {
  if (field.kind === 'email') {
    const read = readTyped(valueIn(values, field.key))
    return typeof read !== 'string'
      ? null
      : read === 'missing'
        ? [read, 'missingEmail']
        : read === 'too-long'
          ? [read, 'longEmail']
          : ['invalid', read === 'not-ascii' ? 'plainEmail' : 'invalidEmail']
  }
  if (field.kind === 'hidden') return null
  const most = field.kind === 'text' || field.kind === 'message' ? MAX_LONG_LENGTH : MAX_LINE_LENGTH
  if (controlNames(field).some((name) => plainBreaks(valueIn(values, name)).length > most))
    return ['too-long', 'tooLong', { most }]
  const answer = answerIn(field, values)
  if (answer === '') return field.required ? ['missing', missingText(field)] : null
  switch (field.kind) {
    case 'phone':
      return /^[+\d][\d\s()./-]*$/.test(answer) && digits(answer) >= 3 && digits(answer) <= 20
        ? null
        : ['invalid', 'invalidPhone']
    case 'website':
      return isWebAddress(answer) ? null : ['invalid', 'invalidWebsite']
    case 'date':
      return isDate(answer) ? null : ['invalid', 'invalidDate']
    case 'birthday':
      // A leap year stands in for the year that is not asked, so that everybody's day exists.
      return isDate(field.withYear ? answer : `2000${answer.slice(1)}`) ? null : ['invalid', 'invalidDate']
    case 'number': {
      // "Valid floating-point number", HTML Living Standard, section 2.3.4.3.
      if (!/^-?(\d+(\.\d+)?|\.\d+)([eE][-+]?\d+)?$/.test(answer) || !Number.isFinite(Number(answer)))
        return ['invalid', 'invalidNumber']
      if (field.least !== null && Number(answer) < field.least) return ['too-small', 'tooSmall', { least: field.least }]
      return field.most !== null && Number(answer) > field.most ? ['too-large', 'tooLarge', { most: field.most }] : null
    }
    case 'choose-one':
      return field.choices.some(({ key }) => key === valueIn(values, field.key)) ? null : ['invalid', 'unknownChoice']
    case 'address':
      return addressParts.some(
        (part) => field.required && isNeededPart(part) && !valueIn(values, `${field.key}-${part}`).trim(),
      )
        ? ['missing', 'missing']
        : null
    default:
      return null as ForKinds<LineKind | LongKind | 'choose-several' | 'topics' | BoxKind, typeof field.kind, null>
  }
}

function missingText(field: Field): keyof InterfaceTexts {
  if (field.kind === 'consent') return 'missingConsent'
  return field.kind === 'choose-one' || field.kind === 'choose-several' || field.kind === 'topics'
    ? 'missingChoice'
    : 'missing'
}

/** A date that exists, `YYYY-MM-DD`, from the year 1 on: one that does not becomes another day, or none, as it is read. */
function isDate(text: string): boolean {
  const at = /^\d{4}-\d\d-\d\d$/.test(text) ? Date.parse(`${text}T00:00Z`) : NaN
  return text > '0001' && !Number.isNaN(at) && new Date(at).toISOString().startsWith(text)
}

function isWebAddress(text: string): boolean {
  try {
    return /^https?:$/.test(new URL(text).protocol)
  } catch {
    return false
  }
}

function digits(text: string): number {
  return text.replace(/\D/g, '').length
}

/** A form post has two characters for a break where `maxlength` counted one (HTML, 4.10.19.5 and 4.10.22.4). */
function plainBreaks(text: string): string {
  return text.replace(/\r\n?/g, '\n')
}

/** An answer to a one-line question is one line: line breaks, which could start a header elsewhere, become spaces. */
function oneLine(text: string): string {
  return text.replace(/[\r\n\v\f\u0085\u2028\u2029]+/g, ' ').trim()
}
