import { type DefaultTreeAdapterTypes as Html, parse } from 'parse5'
import type { FieldKey } from '#core/form'
import { type Shown, squeezed } from '#core/proof'
import { attribute, elementsBelow, resolvedOn, textIn } from '#core/submission'

/** Nobody has read a page that is left again so soon. */
const SOON_SECONDS = 5

/** Reads a page that came in answer to a form. */
export function shownOn(html: string, status: number, address: string): Shown {
  const page = parse(html)
  const elements = elementsBelow(page)
  const main = elements.find(({ tagName }) => tagName === 'main') ?? page
  const inMain = elementsBelow(main)
  const form = elements.find(({ tagName }) => tagName === 'form')
  const inForm = new Set(form === undefined ? [] : elementsBelow(form))
  const outside = inMain.filter((one) => !inForm.has(one))
  const byId = new Map(elements.map((element) => [attribute(element, 'id'), element]))
  const controls = elements.filter(({ tagName }) => ['input', 'select', 'textarea', 'fieldset'].includes(tagName))
  const errors: Record<string, string> = {}
  const values: Record<string, string> = {}
  for (const control of controls) {
    const name = attribute(control, 'name')
    if (name !== null)
      values[name] = control.tagName === 'textarea' ? textIn(control) : (attribute(control, 'value') ?? '')
    const described = (attribute(control, 'aria-describedby') ?? '').split(' ').filter((id) => id.endsWith('-error'))
    for (const id of described) {
      const key = fieldOf(control)
      const text = byId.get(id)
      if (key !== null && text !== undefined) errors[key] = squeezed(textIn(text))
    }
  }
  const giftLine = inMain.find((one) => attribute(one, 'class') === 'gift')
  const gift = giftLine && elementsBelow(giftLine).flatMap((one) => attribute(one, 'href') ?? [])[0]
  // A page that leads on by itself is where its reader arrives. HTML, section 4.2.5.3.
  const refresh = elements.find(
    (one) => one.tagName === 'meta' && /^refresh$/i.test(attribute(one, 'http-equiv') ?? ''),
  )
  const [, seconds = '', target = ''] =
    /^\s*(\d{1,3})(?:\.\d*)?\s*[;,]\s*(?:url\s*=\s*)?["']?([^"'\s]{1,2000})/i.exec(
      (refresh && attribute(refresh, 'content')) ?? '',
    ) ?? []
  const ledTo = seconds !== '' && Number(seconds) <= SOON_SECONDS ? resolvedOn(target, address)?.href : undefined
  return {
    ...(gift !== undefined && { gift }),
    status,
    address: ledTo ?? address,
    heading: squeezed(outside.filter(({ tagName }) => tagName === 'h1').map(textIn)[0] ?? ''),
    message: squeezed(
      outside
        .filter((one) => one.tagName === 'p' && !['back', 'gift'].includes(attribute(one, 'class') ?? ''))
        .map(textIn)
        .join(' '),
    ),
    errors,
    kept: values,
  }
}

/** The field that a control is of: by the class of what is around it, as every form of ours has it. */
function fieldOf(control: Html.Element): FieldKey | null {
  for (let at: Html.ParentNode | null = control; at !== null && 'attrs' in at; at = at.parentNode) {
    const match = /(?:^| )askbox-field-([a-z0-9-]+)/.exec(attribute(at, 'class') ?? '')
    if (match !== null) return match[1]!
  }
  return attribute(control, 'name')
}
