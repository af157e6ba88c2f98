import { defaultTreeAdapter as tree, type DefaultTreeAdapterTypes as Html } from 'parse5'
import { ancestorsOf, attribute, elementsBelow, isDisabled, textIn, typeOf } from './controls'

/** A visitor's changes to controls, by name; controls without one are as the markup says. */
export interface Touched {
  value?: string
  isChecked?: boolean
  /** Of a menu: the values chosen. */
  chosen?: readonly string[]
}
export type Touches = ReadonlyMap<Html.Element, Touched>

/** One entry; a file that nobody chose is an empty one (section 4.10.22.4, step "file"). */
export type FormEntry = { name: string; value: string } | { name: string; isFile: true }

const DIRECTED = new Set([
  'text',
  'search',
  'url',
  'tel',
  'email',
  'password',
  'submit',
  'reset',
  'button',
  'hidden',
  'textarea',
])

/**
 * The entry list of a form, HTML Living Standard, section 4.10.22.4 "Constructing the entry list".
 *
 * @param encoding name of the encoding, which a field named `_charset_` is filled with
 */
export function entryList(
  controls: readonly Html.Element[],
  submitter: Html.Element | null,
  touches: Touches,
  encoding: string,
): FormEntry[] {
  const entries: FormEntry[] = []
  for (const control of controls) {
    const type = typeOf(control)
    const isButton = ['submit', 'image', 'reset', 'button'].includes(type)
    if (ancestorsOf(control).some(({ tagName }) => tagName === 'datalist') || isDisabled(control)) continue
    if (isButton && control !== submitter) continue
    if ((type === 'checkbox' || type === 'radio') && !isChecked(control, controls, touches)) continue
    const name = attribute(control, 'name') ?? ''
    if (type === 'image') {
      const prefix = name === '' ? '' : `${name}.`
      entries.push({ name: `${prefix}x`, value: '0' }, { name: `${prefix}y`, value: '0' })
      continue
    }
    if (name === '') continue
    if (type === 'select') {
      for (const value of chosenOptions(control, touches)) entries.push({ name, value })
    } else if (type === 'checkbox' || type === 'radio')
      entries.push({ name, value: attribute(control, 'value') ?? 'on' })
    else if (type === 'file') entries.push({ name, isFile: true })
    else if (type === 'hidden' && name.toLowerCase() === '_charset_') entries.push({ name, value: encoding })
    else entries.push({ name, value: valueOf(control, touches) })
    const direction = attribute(control, 'dirname')
    if (direction && DIRECTED.has(type))
      entries.push({ name: direction, value: directionOf(control, valueOf(control, touches)) })
  }
  return entries
}

/** A control's value after the value sanitization algorithm of its type, section 4.10.5.1. */
export function valueOf(control: Html.Element, touches: Touches): string {
  const touched = touches.get(control)?.value
  const type = typeOf(control)
  // A text area leaves out one line break at its beginning, which the parser has done already.
  if (type === 'textarea') return (touched ?? textIn(control)).replace(/\r\n?/g, '\n')
  const value = touched ?? attribute(control, 'value') ?? ''
  switch (type) {
    case 'text':
    case 'search':
    case 'tel':
    case 'password':
      return value.replace(/[\r\n]/g, '')
    case 'url':
    case 'email':
      return stripped(value.replace(/[\r\n]/g, ''))
    case 'number':
      return isFloat(value) ? value : ''
    case 'range':
      return isFloat(value) ? value : '50'
    case 'date':
      return /^\d{4,}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/.test(value) ? value : ''
    case 'month':
      return /^\d{4,}-(0[1-9]|1[0-2])$/.test(value) ? value : ''
    case 'week':
      return /^\d{4,}-W(0[1-9]|[1-4]\d|5[0-3])$/.test(value) ? value : ''
    case 'time':
      return /^([01]\d|2[0-3]):[0-5]\d(:[0-5]\d(\.\d{1,3})?)?$/.test(value) ? value : ''
    case 'datetime-local':
      return /^\d{4,}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])[T ]([01]\d|2[0-3]):[0-5]\d(:[0-5]\d(\.\d{1,3})?)?$/.test(
        value,
      )
        ? value.replace(' ', 'T')
        : ''
    case 'color':
      return /^#[0-9a-f]{6}$/i.test(value) ? value.toLowerCase() : '#000000'
    default:
      return value
  }
}

/** "Strip leading and trailing ASCII whitespace" of the Infra Standard. No pattern: on long runs of spaces it would backtrack. */
function stripped(value: string): string {
  let [start, end] = [0, value.length]
  while (start < end && '\t\n\f\r '.includes(value[start]!)) start += 1
  while (end > start && '\t\n\f\r '.includes(value[end - 1]!)) end -= 1
  return value.slice(start, end)
}

/** Section 2.3.4.3, "valid floating-point number". */
function isFloat(value: string): boolean {
  return /^-?(\d+(\.\d+)?|\.\d+)([eE][+-]?\d+)?$/.test(value)
}

/** Of several radio buttons of a group, the last that is checked is the one (section 4.10.5.1.16). */
function isChecked(control: Html.Element, controls: readonly Html.Element[], touches: Touches): boolean {
  const own = (one: Html.Element) => touches.get(one)?.isChecked ?? attribute(one, 'checked') !== null
  if (!own(control)) return false
  if (typeOf(control) !== 'radio') return true
  const name = attribute(control, 'name')
  const group = controls.filter((one) => typeOf(one) === 'radio' && attribute(one, 'name') === name)
  const touched = group.find((one) => touches.get(one)?.isChecked === true)
  return (touched ?? group.findLast(own)) === control
}

/** Values of the options chosen, disabled ones left out. Section 4.10.7, "selectedness setting algorithm". */
function chosenOptions(select: Html.Element, touches: Touches): string[] {
  const options = elementsBelow(select).filter(({ tagName }) => tagName === 'option')
  const isOff = (option: Html.Element) =>
    attribute(option, 'disabled') !== null ||
    ancestorsOf(option).some((one) => one.tagName === 'optgroup' && attribute(one, 'disabled') !== null)
  const isMultiple = attribute(select, 'multiple') !== null
  const size = Number(attribute(select, 'size') ?? 0) || (isMultiple ? 4 : 1)
  const touched = touches.get(select)?.chosen
  let chosen =
    touched === undefined
      ? options.filter((option) => attribute(option, 'selected') !== null)
      : options.filter((option) => touched.includes(optionValue(option)))
  if (!isMultiple) chosen = chosen.slice(-1)
  if (chosen.length === 0 && !isMultiple && size === 1) chosen = options.filter((option) => !isOff(option)).slice(0, 1)
  return chosen.filter((option) => !isOff(option)).map(optionValue)
}

export function optionValue(option: Html.Element): string {
  return (
    attribute(option, 'value') ??
    textIn(option)
      .replace(/[\t\n\f\r ]+/g, ' ')
      .replace(/^ | $/g, '')
  )
}

/** Section 3.2.6.4, as far as attributes and the first strong letter tell. */
function directionOf(control: Html.Element, value: string): string {
  const own = (attribute(control, 'dir') ?? '').toLowerCase()
  if (own === 'rtl' || own === 'ltr') return own
  if (own === 'auto') return /^[^\p{L}]*[\p{Script=Arabic}\p{Script=Hebrew}]/u.test(value) ? 'rtl' : 'ltr'
  if (control.tagName === 'input' && typeOf(control) === 'tel') return 'ltr'
  const around = control.parentNode
  return around !== null && tree.isElementNode(around)
    ? ((ancestorsOf(control)
        .map((one) => (attribute(one, 'dir') ?? '').toLowerCase())
        .find((one) => one === 'rtl' || one === 'ltr') as string | undefined) ?? 'ltr')
    : 'ltr'
}
