import { z } from 'zod'
import { harmlessText, type RichText, richText, richTextSchema } from '#core/text'
import type { InterfaceTexts, TextKey } from '#core/texts'
import { isAutofillToken } from './autofill'
import { PLAUSIBLE_NAMES } from './honeypot'

/** Name of a field in posts. Parts of a field are named `<key>-<part>`, its choices `<key>--<choice>`. */
export const fieldKeySchema = z
  .string()
  .regex(/^[a-z][a-z0-9]*(-[a-z0-9]+)*$/, 'must be small letters, digits and single hyphens')
  .max(40)
  .refine((key) => !key.startsWith('askbox'), 'must not begin like one of our own names')
  .refine((key) => !PLAUSIBLE_NAMES.includes(key), 'must not be a name that only programs fill in')
export type FieldKey = string

const choiceKeySchema = z.string().regex(/^[a-z0-9]{1,20}$/, 'must be small letters and digits')
const choiceSchema = z.strictObject({
  key: choiceKeySchema,
  label: harmlessText,
  /** What whoever chooses it is tagged with; of topics, the label is. */
  tag: harmlessText.max(200).optional(),
})
export type Choice = z.infer<typeof choiceSchema>

const choices = z
  .array(choiceSchema)
  .min(1)
  .max(100)
  .refine((all) => new Set(all.map(({ key }) => key)).size === all.length, 'must not offer the same choice twice')

/** The field is asked only while another one's answer is among these choices. */
const showWhenSchema = z.strictObject({ field: fieldKeySchema, is: z.array(choiceKeySchema).min(1).max(100) })

const shared = {
  key: fieldKeySchema,
  label: harmlessText,
  /** Otherwise the label is for screen readers only. */
  labelShown: z.boolean(),
  placeholder: harmlessText,
  /** Stands below the label. */
  hint: harmlessText,
  /** The owner's wording when the answer cannot be taken; empty for our own. */
  error: harmlessText,
  required: z.boolean(),
  width: z.enum(['full', 'half']),
  /** What browsers may fill in by themselves; empty for what the kind of field suggests. */
  autofill: z
    .string()
    .refine((token) => token === '' || isAutofillToken(token), 'must be an autofill token of the HTML standard'),
  /** The list's column that keeps the answer; empty when none does. */
  column: z.string().regex(/^([a-z][a-z0-9-]{0,39})?$/, 'must be the key of a column'),
  step: z.int().min(1).max(9),
  showWhen: showWhenSchema.nullable(),
}

/** What belongs to a message is asked of everybody, and no list keeps it. */
const ofMessage = { column: z.literal(''), showWhen: z.null() }

export const fieldSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    ...shared,
    kind: z.literal('email'),
    key: z.literal('email'),
    column: z.literal('email'),
    required: z.literal(true),
    showWhen: z.null(),
  }),
  z.strictObject({
    ...shared,
    kind: z.enum(['first-name', 'last-name', 'full-name', 'phone', 'website', 'address', 'date', 'line', 'text']),
  }),
  /** `withYear` or day and month alone. */
  z.strictObject({ ...shared, kind: z.literal('birthday'), withYear: z.boolean() }),
  z.strictObject({ ...shared, kind: z.literal('number'), least: z.number().nullable(), most: z.number().nullable() }),
  z.strictObject({ ...shared, kind: z.literal('choose-one'), choices, shownAs: z.enum(['menu', 'buttons']) }),
  z.strictObject({ ...shared, kind: z.literal('choose-several'), choices }),
  /** Every choice is a tag that its member gets. */
  z.strictObject({ ...shared, kind: z.literal('topics'), choices }),
  /** Never ticked beforehand. `wording` is kept with the receipt as the visitor read it. */
  z.strictObject({ ...shared, kind: z.literal('consent'), wording: richTextSchema }),
  /** A letter to the owner. Goes to nobody's list. */
  z.strictObject({ ...shared, ...ofMessage, kind: z.literal('message'), required: z.literal(true) }),
  z.strictObject({ ...shared, ...ofMessage, kind: z.literal('subject') }),
  /** "Also write to me", beside a message: who does not tick it joins nothing. Never ticked beforehand; `wording` as of a consent box. */
  z.strictObject({
    ...shared,
    ...ofMessage,
    kind: z.literal('join-box'),
    required: z.literal(false),
    wording: richTextSchema,
  }),
  /** Not seen by visitors: a fixed value, or one taken from the page's address (`?from=…`). */
  z.strictObject({
    ...shared,
    kind: z.literal('hidden'),
    source: z.enum(['fixed', 'page-address']),
    value: harmlessText,
  }),
])
export type Field = z.infer<typeof fieldSchema>
export type FieldKind = Field['kind']
export type FieldOf<Kind extends FieldKind> = Extract<Field, { kind: Kind }>
/** Kinds that are asked for by one line, whatever is typed there. */
export type LineKind = 'first-name' | 'last-name' | 'full-name' | 'line' | 'subject'
/** Kinds that are asked for by a box to write at length in. */
export type LongKind = 'text' | 'message'
/** Kinds that are a box to tick, with words of their own. */
export type BoxKind = 'consent' | 'join-box'
/**
 * The type of what a switch comes to by default, for kinds that are named: `typeof field.kind` is what the cases before left,
 * so a new kind does not compile until somebody has said what it is there.
 */
export type ForKinds<Named extends FieldKind, _Left extends Named, Result> = Result
/** Kinds that are asked for by one line which has to be of a form. */
export type FormedKind = 'email' | 'phone' | 'website' | 'date' | 'number'

/** Every kind, in the order in which owners need them, with the list column it usually fills and the autofill token for what it asks; none where the standard has none. */
export const fieldKinds: readonly {
  kind: FieldKind
  name: string
  column: string
  text: TextKey | null
  autofill?: string
}[] = [
  { kind: 'email', name: 'Email', column: 'email', text: 'email', autofill: 'email' },
  { kind: 'first-name', name: 'First name', column: 'first-name', text: 'firstName', autofill: 'given-name' },
  { kind: 'last-name', name: 'Last name', column: 'last-name', text: 'lastName', autofill: 'family-name' },
  { kind: 'full-name', name: 'Full name', column: 'full-name', text: 'fullName', autofill: 'name' },
  { kind: 'topics', name: 'Topics', column: '', text: 'topics' },
  { kind: 'choose-one', name: 'Choose one', column: '', text: 'chooseOne' },
  { kind: 'choose-several', name: 'Choose several', column: '', text: 'chooseSeveral' },
  { kind: 'line', name: 'One line of text', column: '', text: 'line' },
  { kind: 'text', name: 'Long text', column: '', text: 'text' },
  { kind: 'consent', name: 'Consent box', column: '', text: null },
  { kind: 'message', name: 'Message to you', column: '', text: 'message' },
  { kind: 'subject', name: 'Subject of the message', column: '', text: 'subject' },
  { kind: 'join-box', name: 'Box: also write to me', column: '', text: null },
  { kind: 'phone', name: 'Telephone', column: 'phone', text: 'phone', autofill: 'tel' },
  { kind: 'website', name: 'Website', column: 'website', text: 'website', autofill: 'url' },
  { kind: 'address', name: 'Postal address', column: 'address', text: 'address', autofill: 'street-address' },
  { kind: 'birthday', name: 'Birthday', column: 'birthday', text: 'birthday', autofill: 'bday' },
  { kind: 'date', name: 'Date', column: '', text: 'date' },
  { kind: 'number', name: 'Number', column: '', text: 'number' },
  { kind: 'hidden', name: 'Hidden value', column: '', text: null },
]

export function suggestedAutofill(kind: FieldKind): string {
  return fieldKinds.find((one) => one.kind === kind)?.autofill ?? ''
}

export function kindName(kind: FieldKind): string {
  return fieldKinds.find((one) => one.kind === kind)?.name ?? kind
}

/** A new field of a kind, worded in the form's language. `taken` are the keys that the form has already. */
export function newField(kind: FieldKind, texts: InterfaceTexts, taken: readonly FieldKey[] = []): Field {
  const facts = fieldKinds.find((one) => one.kind === kind)!
  const common = {
    key: freeKey(kind, taken),
    label: facts.text === null ? '' : texts[facts.text],
    labelShown: true,
    placeholder: '',
    hint: '',
    error: '',
    required: false,
    width: 'full',
    autofill: '',
    column: facts.column,
    step: 1,
    showWhen: null,
  } as const
  const twoChoices = { choices: ['First choice', 'Second choice'].map((label, at) => ({ key: `c${at + 1}`, label })) }
  switch (kind) {
    case 'email':
      return { ...common, kind, key: 'email', column: 'email', required: true, placeholder: '' }
    case 'birthday':
      return { ...common, kind, withYear: false }
    case 'number':
      return { ...common, kind, least: null, most: null }
    case 'choose-one':
      return { ...common, ...twoChoices, kind, shownAs: 'menu' }
    case 'choose-several':
    case 'topics':
      return { ...common, ...twoChoices, kind }
    case 'consent':
      return { ...common, kind, required: true, wording: richText(texts.consent) }
    case 'message':
      return { ...common, kind, column: '', required: true }
    case 'subject':
      return { ...common, kind, column: '' }
    case 'join-box':
      return { ...common, kind, column: '', required: false, wording: richText(texts.joinBox) }
    case 'hidden':
      return { ...common, kind, label: 'Where from', source: 'fixed', value: '' }
    case 'first-name':
    case 'last-name':
    case 'full-name':
    case 'line':
    case 'text':
    case 'phone':
    case 'website':
    case 'address':
    case 'date':
      return { ...common, kind }
  }
}

function freeKey(kind: FieldKind, taken: readonly FieldKey[]): FieldKey {
  if (!taken.includes(kind)) return kind
  for (let count = 2; ; count++) if (!taken.includes(`${kind}-${count}`)) return `${kind}-${count}`
}

/** A key for one more choice. */
export function freeChoiceKey(taken: readonly Choice[]): string {
  for (let count = taken.length + 1; ; count++) if (!taken.some(({ key }) => key === `c${count}`)) return `c${count}`
}

/** Fields whose answer others can depend on, with the answers there are. */
export function answersToDependOn(field: Field): Choice[] {
  if (field.kind === 'choose-one' || field.kind === 'choose-several' || field.kind === 'topics') return field.choices
  return field.kind === 'consent' ? [{ key: 'on', label: 'ticked' }] : []
}

/** Whether a field is one box to tick, with its words beside it. */
export function isBox(field: Field): field is FieldOf<BoxKind> {
  return field.kind === 'consent' || field.kind === 'join-box'
}

/** Whether a field is asked for by a box to write at length in. */
export function isLong(field: Field): field is FieldOf<LongKind> {
  return field.kind === 'text' || field.kind === 'message'
}

/** What a field asks, for the owner: its label, or a box's wording. */
export function fieldTitle(field: Field): string {
  return field.label.trim() || (isBox(field) ? wordsOf(field.wording) : '') || kindName(field.kind)
}

function wordsOf(rich: RichText): string {
  const [block] = rich
  const spans = block === undefined ? [] : block.kind === 'paragraph' ? block.spans : block.items.flat()
  return spans
    .map(({ text }) => text)
    .join('')
    .trim()
}
