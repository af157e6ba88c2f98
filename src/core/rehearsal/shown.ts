import { type DefaultTreeAdapterTypes as Html, parse } from 'parse5'
import type { FieldKey } from '#core/form'
import { type Shown, squeezed } from '#core/proof'
import type { VisitedPage } from './ports'
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
  const looks = looksOf(elements)
  return {
    ...(gift !== undefined && { gift }),
    ...(looks !== null && { looks }),
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

/** Reads a page that came in a browser. */
export function shownOnVisit({ html, status, address, ledTo, isBlank, isHeldBack }: VisitedPage): Shown {
  return {
    ...shownOn(html, status, ledTo ?? address),
    // Where it was to lead on to is not where its reader is.
    ...(isHeldBack === true && { address, isHeldBack }),
    ...(isBlank === true && { looks: 'empty' as const }),
  }
}

/** As pages say it that answer 200 all the same; common practice, no published source. */
const NOT_FOUND =
  /\b404\b|(?:page|site|seite|post)\b.{0,30}\b(?:not (?:be )?found|does(?: not|n.t) exist|nicht gefunden|existiert nicht)|nothing (?:was )?found|page introuvable|n.existe pas|no (?:se )?encontr|pagina non trovata|niet gevonden|hittades inte/i

/** What a page plainly is, by its heads and its words. One that scripts make is not known by its source. */
function looksOf(elements: readonly Html.Element[]): 'empty' | 'not-found' | 'sign-in' | null {
  const named = (...names: string[]) => elements.filter(({ tagName }) => names.includes(tagName))
  if (named('title', 'h1', 'h2').some((one) => NOT_FOUND.test(squeezed(textIn(one))))) return 'not-found'
  if (named('input').some((one) => /^password$/i.test(attribute(one, 'type') ?? ''))) return 'sign-in'
  const [body] = named('body')
  if (body === undefined || named('img', 'svg', 'video', 'iframe', 'object', 'canvas').length > 0) return null
  return squeezed(wordsIn(body)) === '' && named('script').length === 0 ? 'empty' : null
}

/** Text that is read, and not run. */
export function wordsIn(element: Html.ParentNode): string {
  return element.childNodes
    .map((node) =>
      'value' in node
        ? node.value
        : 'tagName' in node && ['script', 'style', 'noscript', 'template'].includes(node.tagName)
          ? ''
          : 'childNodes' in node
            ? wordsIn(node)
            : '',
    )
    .join('')
}

/** The field that a control is of: by the class of what is around it, as every form of ours has it. */
function fieldOf(control: Html.Element): FieldKey | null {
  for (let at: Html.ParentNode | null = control; at !== null && 'attrs' in at; at = at.parentNode) {
    const match = /(?:^| )askbox-field-([a-z0-9-]+)/.exec(attribute(at, 'class') ?? '')
    if (match !== null) return match[1]!
  }
  return attribute(control, 'name')
}
