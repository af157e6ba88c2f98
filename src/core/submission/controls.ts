import { defaultTreeAdapter as tree, type DefaultTreeAdapterTypes as Html } from 'parse5'
import { openForm } from './parse-page'

/*
 * Forms and their controls in parsed HTML, by the terms of the HTML Living Standard, section 4.10.
 */

/** A form with the controls whose form owner it is, in tree order. */
export interface FormOnPage {
  form: Html.Element
  controls: Html.Element[]
}

/** Submittable elements and buttons (section 4.10.2), as far as parsed HTML can have them. */
const LISTED = new Set(['input', 'select', 'textarea', 'button'])

export function attribute(element: Html.Element, name: string): string | null {
  return element.attrs.find((one) => one.name === name)?.value ?? null
}

/** Descendant elements in tree order. The contents of a `<template>` are not in the page. */
export function elementsBelow(node: Html.ParentNode): Html.Element[] {
  const controls: Html.Element[] = []
  const visit = (parent: Html.ParentNode) => {
    for (const child of parent.childNodes)
      if (tree.isElementNode(child)) {
        controls.push(child)
        visit(child)
      }
  }
  visit(node)
  return controls
}

/** From the inside out. */
export function ancestorsOf(element: Html.Element): Html.Element[] {
  const options: Html.Element[] = []
  for (let at = element.parentNode; at !== null && tree.isElementNode(at); at = at.parentNode) options.push(at)
  return options
}

/** The nearest element around that is of a kind. */
export function closest(element: Html.Element, tag: string): Html.Element | null {
  return ancestorsOf(element).find(({ tagName }) => tagName === tag) ?? null
}

/** Every form of a page, as `parsePage` reads it, with its controls. */
export function formsOn(page: Html.ParentNode): FormOnPage[] {
  const elements = elementsBelow(page)
  const forms = elements.filter(({ tagName }) => tagName === 'form')
  const owned = new Map<Html.Element, Html.Element[]>(forms.map((form) => [form, []]))
  for (const control of elements)
    if (LISTED.has(control.tagName)) {
      const owner = formOwner(control, elements, forms)
      if (owner !== null) owned.get(owner)!.push(control)
    }
  return [...owned].map(([form, controls]) => ({ form, controls }))
}

/** Section 4.10.18.3, "reset the form owner"; before it, the parser's own association. */
function formOwner(
  control: Html.Element,
  elements: readonly Html.Element[],
  forms: readonly Html.Element[],
): Html.Element | null {
  const named = attribute(control, 'form')
  if (named !== null) {
    const first = elements.find((element) => attribute(element, 'id') === named)
    return named !== '' && first?.tagName === 'form' ? first : null
  }
  const open = openForm(control)
  return open !== null && forms.includes(open) ? open : closest(control, 'form')
}

/** Section 4.10.18.5: by its own attribute, or by a fieldset's that it stands in outside of its first legend. */
export function isDisabled(control: Html.Element): boolean {
  if (attribute(control, 'disabled') !== null) return true
  let inside: Html.Element = control
  for (const around of ancestorsOf(control)) {
    if (around.tagName === 'fieldset' && attribute(around, 'disabled') !== null) {
      const legend = around.childNodes.find((child) => tree.isElementNode(child) && child.tagName === 'legend')
      if (legend === undefined || legend !== inside) return true
    }
    inside = around
  }
  return false
}

export function typeOf(control: Html.Element): string {
  const type = (attribute(control, 'type') ?? '').toLowerCase()
  if (control.tagName === 'button') return type === 'reset' || type === 'button' ? type : 'submit'
  if (control.tagName !== 'input') return control.tagName
  return INPUT_TYPES.has(type) ? type : 'text'
}

/** Section 4.10.5; anything else is a text. */
const INPUT_TYPES = new Set(
  'hidden text search tel url email password date month week time datetime-local number range color checkbox radio file submit image reset button'.split(
    ' ',
  ),
)

export function isSubmitButton(control: Html.Element): boolean {
  const type = typeOf(control)
  return type === 'submit' || type === 'image'
}

export function textIn(node: Html.ParentNode): string {
  return node.childNodes
    .map((child) => (tree.isTextNode(child) ? child.value : 'childNodes' in child ? textIn(child) : ''))
    .join('')
}
