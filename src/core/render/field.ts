import {
  type BoxKind,
  type Field,
  type ForKinds,
  type FormedKind,
  isBox,
  type LineKind,
  type LongKind,
  suggestedAutofill,
} from '#core/form'
import { addressParts, birthdayParts, isNeededPart, MAX_LINE_LENGTH, MAX_LONG_LENGTH } from '#core/signup'
import { directionOf, type InterfaceTexts, type Language } from '#core/texts'
import { type Element, element, type Node } from './node'
import type { CameFrom } from '#core/journal'
import { richLine } from './rich'

/** A visitor's values and the errors in them; empty for a form nobody has touched. */
export interface FormState {
  /** By name of the control. */
  values: Record<string, string | undefined>
  /** By key of the field. */
  errors: Record<string, string | undefined>
  /** The page the visitor came from, carried along when the form is shown again on a page of ours. */
  page?: string
  /** What brought the visitor to a page of ours, told by its address. */
  cameFrom?: CameFrom
  /** The signed note of this view, which a sign-up brings back. */
  view?: string | undefined
  /** Whether it stands on a page of ours, which is answered by a page of ours. */
  isOnOurPage?: boolean
}

/** Owners choose keys, `constructor` too: own properties only. */
const typedIn = ({ values }: FormState, name: string) => (Object.hasOwn(values, name) ? values[name] : undefined)
const errorOf = ({ errors }: FormState, key: string) => (Object.hasOwn(errors, key) ? errors[key] : undefined)

const firstWrong = ({ errors }: FormState) =>
  Object.keys(errors).find((key) => Object.hasOwn(errors, key) && errors[key] !== undefined)

export interface FieldContext {
  /** Begins every id, so that two forms on a page have none in common. */
  scope: string
  language: Language
  texts: InterfaceTexts
  state: FormState
}

/** One field with its label, hint and error; null for one that nobody sees. */
export function renderField(field: Field, context: FieldContext): Node | null {
  const { state, scope } = context
  if (field.kind === 'hidden') {
    return field.source === 'fixed'
      ? null
      : element('input', {
          type: 'hidden',
          name: field.key,
          'data-askbox-from': field.value,
          value: typedIn(state, field.key),
        })
  }
  const error = errorOf(state, field.key)
  const ids = {
    control: `${scope}-${field.key}`,
    hint: field.hint === '' ? null : `${scope}-${field.key}-hint`,
    error: error === undefined ? null : `${scope}-${field.key}-error`,
  }
  const described = [ids.hint, ids.error].filter((id) => id !== null).join(' ') || undefined
  const hint = ids.hint !== null && element('span', { class: 'askbox-hint', id: ids.hint }, field.hint)
  const problem = ids.error !== null && element('span', { class: 'askbox-error', id: ids.error }, error ?? '')
  const classes = `askbox-field askbox-field-${field.key}${field.width === 'half' ? ' askbox-half' : ''}`

  if (isBox(field)) {
    const box = control(field, context, {
      type: 'checkbox',
      value: 'on',
      id: ids.control,
      'aria-describedby': described,
    })
    return element(
      'div',
      { class: classes },
      element('label', { class: 'askbox-option' }, box, element('span', {}, ...richLine(field.wording))),
      hint,
      problem,
    )
  }
  const parts = partsOf(field, context, ids.control)
  if (parts !== null) {
    return element(
      'fieldset',
      // Where it has an error, the list of errors leads to it.
      {
        class: classes,
        ...(error !== undefined && { id: ids.control, tabindex: '-1' }),
        'aria-describedby': described,
      },
      element('legend', { class: labelClass(field) }, ...labelWords(field, context.texts)),
      hint,
      element('div', { class: isOptions(field) ? 'askbox-options' : 'askbox-parts' }, ...parts),
      problem,
    )
  }
  // Around its control instead of naming it: where code is pasted twice, an id leads to the first copy. What stands in a
  // label is read as part of the name, so the hint comes after it, and the styles put it between the two.
  return element(
    'div',
    { class: `${classes} askbox-single` },
    element(
      'label',
      {},
      element('span', { class: labelClass(field) }, ...labelWords(field, context.texts)),
      singleControl(field, context, { id: ids.control, 'aria-describedby': described }),
    ),
    hint,
    problem,
  )
}

function labelWords(field: Field, texts: InterfaceTexts): Node[] {
  return [
    element('span', { class: 'askbox-words' }, field.label),
    ...(field.required ? [] : [element('span', { class: 'askbox-optional' }, ` ${texts.optional}`)]),
  ]
}

function labelClass(field: Field): string {
  return field.labelShown ? 'askbox-label' : 'askbox-heard'
}

function isOptions(field: Field): boolean {
  return field.kind !== 'address' && field.kind !== 'birthday'
}

interface ControlKind {
  tag?: 'input' | 'textarea' | 'select'
  /** Missing is the field's key. */
  name?: string
  isNeeded?: boolean
}

/** Leaves `required` off a control that may be hidden: browsers refuse to send a form with one, and show no message. */
function control(
  field: Field,
  { state }: FieldContext,
  attributes: Record<string, string | undefined>,
  { tag = 'input', name = field.key, isNeeded = field.required }: ControlKind = {},
): Element {
  const value = typedIn(state, name)
  const isBox = attributes.type === 'checkbox' || attributes.type === 'radio'
  return element(
    tag,
    {
      class: isBox ? 'askbox-box' : 'askbox-input',
      name,
      ...attributes,
      ...(isBox ? { checked: value !== undefined && value === attributes.value } : tag === 'input' ? { value } : {}),
      required: isNeeded && field.showWhen === null,
      'aria-required':
        isNeeded && field.showWhen !== null && attributes.type !== 'checkbox' && attributes.type !== 'radio'
          ? 'true'
          : undefined,
      'aria-invalid': errorOf(state, field.key) === undefined ? undefined : 'true',
      // Shown again, the first one that is wrong is where to go on.
      autofocus: firstWrong(state) === field.key,
    },
    ...(tag === 'textarea' && value ? [value] : []),
  )
}

function singleControl(field: Field, context: FieldContext, ids: Record<string, string | undefined>): Element {
  const common = {
    ...ids,
    placeholder: field.placeholder || undefined,
    autocomplete: field.autofill || suggestedAutofill(field.kind) || undefined,
  }
  const line = { maxlength: String(MAX_LINE_LENGTH) }
  // Addresses and numbers run from left to right in every language.
  const ltr = directionOf(context.language) === 'rtl' ? { dir: 'ltr' } : {}
  switch (field.kind) {
    case 'email':
      return control(field, context, { type: 'email', ...common, ...ltr, maxlength: '254' })
    case 'phone':
      return control(field, context, { type: 'tel', ...common, ...ltr, maxlength: '40' })
    case 'website':
      // What browsers take for one (`type=url`) needs its scheme, which people leave out.
      return control(field, context, { type: 'text', inputmode: 'url', ...common, ...ltr, ...line })
    case 'date':
      return control(field, context, { type: 'date', ...common, placeholder: undefined })
    case 'number':
      return control(field, context, {
        type: 'number',
        ...common,
        inputmode: 'decimal',
        step: 'any',
        min: field.least === null ? undefined : String(field.least),
        max: field.most === null ? undefined : String(field.most),
      })
    case 'text':
    case 'message':
      return control(
        field,
        context,
        {
          ...common,
          rows: field.kind === 'message' ? '6' : '4',
          maxlength: String(MAX_LONG_LENGTH),
          'data-askbox-left': field.kind === 'message' ? context.texts.lettersLeft : undefined,
        },
        { tag: 'textarea' },
      )
    case 'choose-one': {
      const select = control(field, context, { ...ids, autocomplete: field.autofill || undefined }, { tag: 'select' })
      const chosen = typedIn(context.state, field.key)
      const options = field.choices.map(({ key, label }) =>
        element('option', { value: key, selected: key === chosen }, label),
      )
      return { ...select, children: [element('option', { value: '' }, context.texts.choose), ...options] }
    }
    default:
      // A new kind has to be added here: the compiler checks that none is left.
      return control(field, context, { type: 'text', ...common, ...line }) as ForKinds<
        LineKind | 'address' | 'birthday' | 'choose-several' | 'topics' | BoxKind | 'hidden',
        typeof field.kind,
        ReturnType<typeof control>
      >
  }
}

/** Label of each part, and its autofill token (HTML, 4.10.18.7). */
const partTexts = {
  street: { text: 'street', autofill: 'address-line1' },
  'postal-code': { text: 'postalCode', autofill: 'postal-code' },
  city: { text: 'city', autofill: 'address-level2' },
  country: { text: 'country', autofill: 'country-name' },
  day: { text: 'day', autofill: 'bday-day' },
  month: { text: 'month', autofill: 'bday-month' },
  year: { text: 'year', autofill: 'bday-year' },
} as const

/** The controls of a field that has several, or null. */
function partsOf(field: Field, context: FieldContext, id: string): Node[] | null {
  const { texts, state } = context
  const part = (words: string, inner: Element, className = '') =>
    element(
      'label',
      { class: `askbox-part${className}` },
      element('span', { class: 'askbox-part-label' }, words),
      inner,
    )
  switch (field.kind) {
    case 'address':
      return addressParts.map((name) =>
        part(
          texts[partTexts[name].text],
          control(
            field,
            context,
            {
              type: 'text',
              id: `${id}-${name}`,
              autocomplete: partTexts[name].autofill,
              maxlength: String(MAX_LINE_LENGTH),
            },
            { name: `${field.key}-${name}`, isNeeded: field.required && isNeededPart(name) },
          ),
          ` askbox-part-${name}`,
        ),
      )
    case 'birthday':
      return birthdayParts
        .filter((name) => field.withYear || name !== 'year')
        .map((name) => {
          const { text, autofill } = partTexts[name]
          const ids = { id: `${id}-${name}`, autocomplete: autofill }
          const full = `${field.key}-${name}`
          if (name !== 'month') {
            const most = name === 'day' ? '31' : undefined
            return part(
              texts[text],
              control(
                field,
                context,
                { type: 'number', ...ids, min: name === 'day' ? '1' : '1900', max: most, inputmode: 'numeric' },
                { name: full },
              ),
            )
          }
          const select = control(field, context, ids, { tag: 'select', name: full })
          const months = monthNames(context.language).map((words, at) =>
            element('option', { value: String(at + 1), selected: typedIn(state, full) === String(at + 1) }, words),
          )
          return part(texts[text], {
            ...select,
            children: [element('option', { value: '' }, texts.choose), ...months],
          })
        })
    case 'choose-one':
      if (field.shownAs === 'menu') return null
      return field.choices.map(({ key, label }) =>
        element(
          'label',
          { class: 'askbox-option' },
          control(field, context, { type: 'radio', value: key }),
          element('span', {}, label),
        ),
      )
    case 'choose-several':
    case 'topics':
      return field.choices.map(({ key, label }) =>
        element(
          'label',
          { class: 'askbox-option' },
          control(field, context, { type: 'checkbox', value: 'on' }, { name: `${field.key}--${key}`, isNeeded: false }),
          element('span', {}, label),
        ),
      )
    default:
      return null as ForKinds<LineKind | FormedKind | LongKind | BoxKind | 'hidden', typeof field.kind, null>
  }
}

/** By language: asking for a format takes longer than rendering the rest of a form. */
const months = new Map<Language, string[]>()

function monthNames(language: Language): string[] {
  const cached = months.get(language)
  if (cached !== undefined) return cached
  const format = new Intl.DateTimeFormat(language, { month: 'long', timeZone: 'UTC' })
  const names = Array.from({ length: 12 }, (_, month) => format.format(Date.UTC(2000, month, 15)))
  months.set(language, names)
  return names
}
