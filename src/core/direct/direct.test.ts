import type { DefaultTreeAdapterTypes as Html } from 'parse5'
import { startContent } from '#core/form'
import { renderForm, toHtml } from '#core/render'
import {
  attribute,
  elementsBelow,
  formsOn,
  isSubmitButton,
  parsePage,
  submissionOf,
  type Touched,
  typeOf,
} from '#core/submission'
import { formCodes, noForms } from '../../../tests/tables/form-codes'
import { directContent, readForm } from '.'

const start = startContent('Letters')

function readCode({ code, page }: (typeof formCodes)[number]) {
  const reading = readForm(code, page ?? null)
  if (!reading.ok) throw new Error(reading.message)
  return reading.form
}

describe('a form that its owner has already is read', () => {
  test.each(formCodes)('$name', (one) => {
    const form = readCode(one)
    expect({
      action: form.action,
      method: form.method,
      asks: form.fields.map(({ name, kind, isRequired }) => `${name} ${kind}${isRequired ? '*' : ''}`),
      fixed: form.fixed.map(({ name, value }) => `${name}=${value}`),
      trap: form.trap,
      dropped: form.dropped,
      unclear: form.fields.filter(({ unclear }) => unclear !== null).map(({ name }) => name),
    }).toEqual({
      action: one.action,
      method: one.method ?? 'post',
      asks: one.asks,
      fixed: one.fixed ?? [],
      trap: one.trap ?? null,
      dropped: one.dropped ?? [],
      unclear: one.unclear ?? [],
    })
  })
  test.each(noForms)('%s is none: %s', (code, page, problem) => {
    expect(readForm(code, page)).toMatchObject({ ok: false, code: problem })
  })
})

/** Fills in whatever a form asks for: boxes are ticked, the first choice taken. */
function sentBy(html: string, address: string): { method: string; address: string; entries: string[] } {
  const page = parsePage(html)
  const form = formsOn(page).find(({ controls }) =>
    controls.some(
      (control) => typeOf(control) === 'email' || /mail|contact|e1/i.test(attribute(control, 'name') ?? ''),
    ),
  )!
  const touches = new Map<Html.Element, Touched>()
  const ticked = new Set<string>()
  for (const control of form.controls) {
    const type = typeOf(control)
    const name = attribute(control, 'name') ?? ''
    const isHidden = attribute(control, 'tabindex') === '-1'
    if (isHidden || ['hidden', 'submit', 'image', 'button'].includes(type)) continue
    if (type === 'checkbox') touches.set(control, { isChecked: true })
    else if (type === 'radio') {
      if (!ticked.has(name)) touches.set(control, { isChecked: true })
      ticked.add(name)
    } else if (control.tagName === 'select') {
      const options = elementsBelow(control).filter(({ tagName }) => tagName === 'option')
      const first = options
        .map((option) => attribute(option, 'value') ?? (option.childNodes[0] as Html.TextNode).value)
        .find((value) => value !== '')!
      touches.set(control, { chosen: [first] })
    } else touches.set(control, { value: 'typed@m.example' })
  }
  const submission = submissionOf(form, form.controls.find(isSubmitButton) ?? null, touches, {
    page,
    address,
    encoding: 'utf-8',
    boundary: 'b',
  })!
  return {
    method: submission.method,
    address: submission.address.split('?')[0]!,
    entries: submission.entries
      .map((entry) => `${entry.name}=${'value' in entry ? entry.value : 'file'}`)
      // Where a picture was pressed, and what was left empty.
      .filter((entry) => !/^(?:x|y)=/.test(entry))
      .sort(),
  }
}

describe('ours sends what the service’s own would', () => {
  test.each(formCodes)('$name', (one) => {
    const content = directContent(readCode(one), start)
    const placed = { content, form: 'someform', version: 1, spot: 'somespot', receiver: 'https://forms.example' }
    const html = toHtml(renderForm(placed as never))
    expect(sentBy(html, 'https://site.example/')).toEqual(sentBy(one.code, one.page ?? 'https://site.example/'))
    // Nothing of ours goes along, and nothing goes to a receiver.
    expect(html).not.toMatch(/name="askbox-|forms\.example\/join/)
  })
})

test('what is not clear is asked, and its answer is kept to; what is required is never left out', () => {
  const form = readCode(formCodes.find(({ name }) => name.startsWith('fields that'))!)
  const kinds = (said: Parameters<typeof directContent>[2]) =>
    directContent(form, start, said).fields.map(({ kind }) => kind)
  expect(kinds({})).toEqual(['email', 'line', 'phone'])
  expect(kinds({ cf_81: 'number', t: 'leave-out' })).toEqual(['email', 'number'])
  expect(kinds({ email: 'leave-out' })).toEqual(['email', 'line', 'phone'])
})
