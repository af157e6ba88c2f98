import { defaultTreeAdapter as tree, type DefaultTreeAdapterTypes as Html } from 'parse5'
import { addressProblem } from '#core/site'
import {
  ancestorsOf,
  attribute,
  baseOf,
  elementsBelow,
  type FormOnPage,
  formsOn,
  isDisabled,
  isSubmitButton,
  optionValue,
  resolvedOn,
  textIn,
  typeOf,
  valueOf,
  parsePage,
} from '#core/submission'
import { whatIsDropped } from './dropped'
import { type ReadKind, kindOf } from './kinds'
import { labelOf, tidy } from './labels'
import { isTrap } from './traps'

/** One question of a form, as its service asks it. */
export interface ReadField {
  /** What it is sent as. */
  name: string
  label: string
  kind: ReadKind
  isRequired: boolean
  placeholder: string
  /** Of menus, groups and boxes: what each is sent as. */
  choices: { value: string; label: string; isChosen: boolean }[]
  /** Of a group of boxes that each have a name of their own, those names in order. */
  names: string[]
  /** Why its owner is asked what it is; null where it is clear. */
  unclear: string | null
}

/** A form as it was found in pasted code. */
export interface ReadForm {
  action: string
  method: 'post' | 'get'
  charset: string
  fixed: { name: string; value: string }[]
  fields: ReadField[]
  trap: string | null
  button: { name: string; value: string } | null
  buttonWords: string
  heading: string
  /** What is in the code and is not taken along, in words. */
  dropped: string[]
}

export type FormReading = { ok: true; form: ReadForm } | { ok: false; code: FormProblem; message: string }
export type FormProblem = 'no-form' | 'no-email' | 'no-action' | 'relative' | 'not-secure' | 'files' | 'dialog'

const refuse = (code: FormProblem, message: string): FormReading => ({ ok: false, code, message })

/**
 * Reads the form out of pasted code or out of a page, as the HTML standard's parser sees it: whatever is broken in it is
 * mended as browsers do. Of several forms it is the one that asks for an email address.
 *
 * @param address of the page that the code is from; null where only code was pasted
 */
export function readForm(code: string, address: string | null): FormReading {
  const page = parsePage(code)
  const forms = formsOn(page).filter(({ controls }) => controls.length > 0)
  if (forms.length === 0) return refuse('no-form', 'There is no form in it: code of a form has a <form> with fields.')
  const chosen = forms.find(asksForEmail)
  if (chosen === undefined)
    return refuse('no-email', 'No form in it asks for an email address. Paste the code of the signup form.')
  return readOne(chosen, forms, page, address)
}

function asksForEmail({ controls }: FormOnPage): boolean {
  return controls.some((control) => control.tagName === 'input' && kindOf(control, labelOf(control)) === 'email')
}

function readOne(
  one: FormOnPage,
  all: readonly FormOnPage[],
  page: Html.Document,
  address: string | null,
): FormReading {
  const { form } = one
  const controls = one.controls.filter((control) => !isDisabled(control))
  const buttons = controls.filter(isSubmitButton)
  const [button] = buttons
  const said = (name: string) =>
    (button === undefined ? null : attribute(button, `form${name}`)) ?? attribute(form, name) ?? ''
  const method = said('method').trim().toLowerCase()
  if (method === 'dialog') return refuse('dialog', 'This form is sent nowhere: a script of its page takes it.')
  const typed = said('action').trim()
  if (typed === '' && address === null)
    return refuse(
      'no-action',
      'It does not say where it goes: it is sent to the page it stands on. Give that page’s address.',
    )
  const base = baseOf(page, address ?? '')
  const action = typed === '' ? resolvedOn(address!, null) : resolvedOn(typed, base === '' ? null : base)
  if (action === null || (action.protocol !== 'https:' && action.protocol !== 'http:'))
    return typed.startsWith('javascript:')
      ? refuse('dialog', 'This form is sent nowhere: a script of its page takes it.')
      : refuse(
          'relative',
          `It goes to “${typed}”, which is only part of an address. Give the address of the page it is from.`,
        )
  const unsafe = addressProblem(action.href)
  if (unsafe !== null) return refuse('not-secure', `It goes to ${action.origin}. ${unsafe}`)
  if (controls.some((control) => typeOf(control) === 'file'))
    return refuse('files', 'It asks for a file, which a signup form of Ask Box cannot.')

  const traps = controls.filter(isTrap)
  const asked = controls.filter(
    (control) =>
      !traps.includes(control) &&
      !['hidden', 'submit', 'image', 'reset', 'button'].includes(typeOf(control)) &&
      attribute(control, 'name'),
  )
  const fields = readFields(asked)
  const name = button === undefined ? null : attribute(button, 'name')
  return {
    ok: true,
    form: {
      action: action.href,
      method: method === 'post' ? 'post' : 'get',
      charset: (attribute(form, 'accept-charset') ?? '').trim().split(/\s+/)[0] ?? '',
      fixed: controls
        .filter((control) => typeOf(control) === 'hidden' && attribute(control, 'name'))
        .map((control) => ({ name: attribute(control, 'name')!, value: valueOf(control, new Map()) })),
      fields,
      trap: traps.map((control) => attribute(control, 'name')).find(Boolean) ?? null,
      button: name ? { name, value: valueOf(button!, new Map()) } : null,
      buttonWords: button === undefined ? '' : tidy(wordsOn(button)),
      heading: headingOf(form),
      dropped: whatIsDropped({ page, form, others: all.filter((other) => other !== one), buttons, traps }),
    },
  }
}

function wordsOn(button: Html.Element): string {
  return button.tagName === 'button' ? textIn(button) : (attribute(button, 'value') ?? attribute(button, 'alt') ?? '')
}

function readFields(asked: readonly Html.Element[]): ReadField[] {
  const fields: ReadField[] = []
  const done = new Set<Html.Element>()
  for (const control of asked) {
    if (done.has(control)) continue
    const type = typeOf(control)
    const group =
      type === 'radio' || type === 'checkbox' ? asked.filter((other) => isOfGroup(control, other, type)) : [control]
    for (const one of group) done.add(one)
    fields.push(type === 'radio' || (type === 'checkbox' && group.length > 1) ? grouped(group, type) : single(control))
  }
  // Only the first address is the address.
  let hasEmail = false
  return fields.map((field) => {
    if (field.kind !== 'email') return field
    if (!hasEmail) {
      hasEmail = true
      return { ...field, isRequired: true }
    }
    return { ...field, kind: 'line' as const, unclear: 'It looks like a second email address, to be typed again.' }
  })
}

/** Radio buttons of a name; boxes of a name, or of names that differ in what stands in brackets. */
function isOfGroup(control: Html.Element, other: Html.Element, type: string): boolean {
  if (typeOf(other) !== type) return false
  const [one, two] = [attribute(control, 'name')!, attribute(other, 'name')!]
  if (one === two) return true
  const stem = (name: string) => (name.endsWith(']') ? name.slice(0, name.lastIndexOf('[')) || undefined : undefined)
  return type === 'checkbox' && stem(one) !== undefined && stem(one) === stem(two)
}

function grouped(group: readonly Html.Element[], type: string): ReadField {
  const [first] = group as [Html.Element, ...Html.Element[]]
  return {
    name: attribute(first, 'name')!,
    label: legendOf(first) || tidy(attribute(first, 'name')!.replaceAll(/[[\]_-]+/g, ' ')),
    kind: type === 'radio' ? 'choose-one' : 'choose-several',
    isRequired: group.some(isNeeded),
    placeholder: '',
    choices: group.map((control) => ({
      value: attribute(control, 'value') ?? 'on',
      label: labelOf(control) || (attribute(control, 'value') ?? ''),
      isChosen: attribute(control, 'checked') !== null,
    })),
    names: group.map((control) => attribute(control, 'name')!),
    unclear: null,
  }
}

function single(control: Html.Element): ReadField {
  const label = labelOf(control)
  const kind = kindOf(control, label)
  const name = attribute(control, 'name')!
  const type = typeOf(control)
  const choices =
    control.tagName === 'select'
      ? elementsBelow(control)
          .filter(({ tagName }) => tagName === 'option')
          .map((option) => ({
            value: optionValue(option),
            label: tidy(textIn(option)),
            isChosen: attribute(option, 'selected') !== null,
          }))
          // What only says “choose one” is no choice.
          .filter(({ value }) => value !== '')
      : type === 'checkbox'
        ? [{ value: attribute(control, 'value') ?? 'on', label, isChosen: attribute(control, 'checked') !== null }]
        : []
  return {
    name,
    label: label || tidy(name.replaceAll(/[[\]_-]+/g, ' ')),
    kind,
    isRequired: isNeeded(control),
    placeholder: attribute(control, 'placeholder') ?? '',
    choices,
    names: [name],
    unclear:
      type === 'password'
        ? 'It asks for a password.'
        : label === '' && kind === 'line'
          ? 'Nothing beside it says what it asks for.'
          : null,
  }
}

function isNeeded(control: Html.Element): boolean {
  const classes = (attribute(control, 'class') ?? '').toLowerCase().split(/\s+/)
  return (
    attribute(control, 'required') !== null ||
    attribute(control, 'aria-required') === 'true' ||
    attribute(control, 'data-required') !== null ||
    classes.includes('required')
  )
}

function legendOf(control: Html.Element): string {
  const fieldset = ancestorsOf(control).find(
    ({ tagName, attrs }) =>
      tagName === 'fieldset' || attrs.some(({ name, value }) => name === 'role' && /^(radio)?group$/.test(value)),
  )
  if (fieldset === undefined) return ''
  const named = attribute(fieldset, 'aria-label')
  const legend = elementsBelow(fieldset).find(({ tagName }) => tagName === 'legend')
  return tidy(named ?? (legend === undefined ? '' : textIn(legend)))
}

/** The heading in the form, or the nearest before it. */
function headingOf(form: Html.Element): string {
  const isHeading = ({ tagName }: Html.Element) => /^h[1-6]$/.test(tagName)
  const inside = elementsBelow(form).find(isHeading)
  if (inside !== undefined) return tidy(textIn(inside))
  for (const around of ancestorsOf(form)) {
    const before = around.childNodes
      .filter(tree.isElementNode)
      .flatMap((one) => [one, ...elementsBelow(one)])
      .filter((one) => (one.sourceCodeLocation?.startOffset ?? 0) < (form.sourceCodeLocation?.startOffset ?? 0))
      .findLast(isHeading)
    if (before !== undefined) return tidy(textIn(before))
  }
  return ''
}
