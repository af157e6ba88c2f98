import { type Field, type FieldKey, type FormContent, honeypotName } from '#core/form'
import type { FormId, SpotId } from '#core/ids'
import { type Element, element, type Node } from './node'
import { formStyles, scopeOf } from './styles'
import { interfaceTexts } from './texts'

/** A form's content at one place, with all that the code on the page has to say about itself. */
export interface PlacedForm {
  content: FormContent
  form: FormId
  /** The version that the content is, or is going to be. */
  version: number
  spot: SpotId
  /** Where the receiver is reached by visitors, without a slash at the end. */
  receiver: string
}

/** What a visitor already typed, and what was wrong with it. Empty for a form nobody has touched. */
export interface FormState {
  values: Partial<Record<FieldKey, string>>
  errors: Partial<Record<FieldKey, string>>
  /** The page the visitor came from, carried along when the form is shown again on a page of ours. */
  page?: string
}

/**
 * The one renderer: pages, previews and code all show what this returns. A complete plain `<form>` that
 * works without scripts.
 */
export function renderForm(placed: PlacedForm, state: FormState = { values: {}, errors: {} }): Element {
  const { content } = placed
  const { words } = content
  return element(
    'form',
    {
      class: `askbox ${scopeOf(placed.spot)}`,
      action: `${placed.receiver}/join/${placed.spot}`,
      method: 'post',
      'accept-charset': 'utf-8',
    },
    element('style', {}, formStyles(placed.spot, content.look)),
    words.heading !== '' && element('h2', { class: 'askbox-heading' }, words.heading),
    words.introduction !== '' && element('p', { class: 'askbox-introduction' }, words.introduction),
    element(
      'div',
      { class: 'askbox-row' },
      ...content.fields.map((field) => renderField(field, placed.spot, state)),
      element('button', { class: 'askbox-button', type: 'submit' }, words.button),
    ),
    words.small !== '' && element('p', { class: 'askbox-small' }, words.small),
    honeypot(placed.form),
    element('input', { type: 'hidden', name: 'askbox-version', value: String(placed.version) }),
    state.page !== undefined && state.page !== '' && element('input', { type: 'hidden', name: 'askbox-page', value: state.page }),
  )
}

function renderField(field: Field, spot: SpotId, state: FormState): Node {
  const error = state.errors[field.key]
  const errorId = `${scopeOf(spot)}-${field.key}-error`
  return element(
    'label',
    { class: `askbox-field askbox-field-${field.key}` },
    element(
      'span',
      { class: 'askbox-label' },
      field.label,
      !field.required && element('span', { class: 'askbox-optional' }, ` ${interfaceTexts.optional}`),
    ),
    element('input', {
      name: field.key,
      ...inputAttributes[field.kind],
      placeholder: field.placeholder || undefined,
      required: field.required,
      value: state.values[field.key],
      'aria-invalid': error === undefined ? undefined : 'true',
      'aria-describedby': error === undefined ? undefined : errorId,
    }),
    error !== undefined && element('span', { class: 'askbox-error', id: errorId }, error),
  )
}

/** `autocomplete` tokens: HTML Living Standard, section 4.10.18.7 (Autofill). */
const inputAttributes: Record<Field['kind'], Record<string, string>> = {
  email: { type: 'email', autocomplete: 'email', maxlength: '254' },
  'first-name': { type: 'text', autocomplete: 'given-name', maxlength: '200' },
}

/**
 * A field for programs only: moved out of sight by the styles, `inert` so that neither keyboard, assistive
 * technology nor autofill reaches it. Its words are for the case that a site strips all of that.
 */
function honeypot(form: FormId): Node {
  return element(
    'div',
    { class: 'askbox-more', inert: true, 'aria-hidden': 'true' },
    element('label', {}, interfaceTexts.leaveEmpty, element('input', { type: 'text', name: honeypotName(form), tabindex: '-1', autocomplete: 'off' })),
  )
}
