import { honeypotName } from '#core/form'
import type { FormId } from '#core/ids'
import { ancestorsOf, attribute, closest, elementsBelow, isSubmitButton, typeOf } from '#core/submission'
import { type DefaultTreeAdapterTypes as Html, parseFragment } from 'parse5'
import { linesOf } from './lines'
import { codeFor } from './recognise'
import type { Became, ExpectedCode, InstallFinding } from './report'
import { squeezed } from './tokens'
import { damage, olderFinding } from './words'

/*
 * Code that is neither as published nor damaged in a known way.
 */

/**
 * What differs between the code on the page and the newest version: differences that keep somebody from signing up are
 * findings, all others are only listed.
 */
export function changed(ours: readonly Html.Element[], expected: ExpectedCode, latest: number): Became {
  const { spot, receiver } = expected
  const ownForm = ours.find(({ tagName }) => tagName === 'form')
  // A form whose `action` a sanitizer removed is recognised by its button, and by its class.
  const button =
    ours.find(({ tagName }) => tagName === 'button') ??
    (ownForm && elementsBelow(ownForm).find((one) => one.tagName === 'button' && isSubmitButton(one)))
  const outer = button && closest(button, 'form')
  const form = ownForm ?? (outer && /(^| )askbox( |$)/.test(attribute(outer, 'class') ?? '') ? outer : undefined)
  const inside = form ?? button ?? ours[0]!
  const around = cardAround(inside) ?? form ?? (button && closest(button, 'div')) ?? inside
  const inner = elementsBelow(around)
  const number = Number(
    attribute(inner.find((element) => attribute(element, 'name') === 'askbox-version') ?? around, 'value') ?? NaN,
  )
  const version = expected.versions.find((one) => one.number === number) ?? expected.versions.at(-1)!
  const designed = elementsBelow(parseFragment(codeFor(expected, version)))
  const lines = linesOf(around)
  const problems: InstallFinding[] = []
  const tell = (message: string, mend = 'Paste the code anew in its place.') =>
    problems.push({ code: 'changed', weight: 'damage', message, mend, lines })
  const notes: InstallFinding[] = []
  /** What is not needed to sign up. */
  const note = (message: string) =>
    notes.push({ code: 'changed', weight: 'hint', message, mend: 'Paste the code anew in its place.', lines })
  const names = (elements: readonly Html.Element[]) =>
    new Map(
      elements.flatMap((element) =>
        attribute(element, 'name') === null ? [] : [[attribute(element, 'name')!, element]],
      ),
    )
  const [here, there] = [names(inner), names(designed)]
  for (const [name, control] of there) {
    const standing = here.get(name)
    if (standing === undefined && name === 'askbox-version')
      note('The hidden field with the version is missing: answers are checked by the newest version.')
    else if (standing === undefined && name === honeypotName(version.form as FormId))
      note('The hidden trap for bots is missing: people can sign up, and bots more easily.')
    else if (standing === undefined) tell(`The field “${name}” is missing.`)
    else if (typeOf(standing) !== typeOf(control) && !(typeOf(control) === 'email' && typeOf(standing) === 'text'))
      tell(`The field “${name}” is of another kind than it was made.`)
    else if (
      attribute(control, 'type') === 'hidden' &&
      name !== 'askbox-version' &&
      attribute(standing, 'value') !== attribute(control, 'value')
    )
      tell(`The hidden field “${name}” has another value.`)
  }
  for (const name of here.keys())
    if (!there.has(name)) tell(`A field “${name}” stands there that the form does not have: its answers are not kept.`)
  const address = `${receiver}/join/${spot.id}`
  const action = form && attribute(form, 'action')
  const isByButton = action === null && button !== undefined && attribute(button, 'formaction') === address
  if (form !== undefined && action !== address && !isByButton) tell('The form sends to another address.')
  const method = (button && attribute(button, 'formmethod')) ?? (form && attribute(form, 'method')) ?? ''
  if (form !== undefined && method.toLowerCase() !== 'post') tell('The form is not sent by post.')
  if (button === undefined) tell('The button is missing, or leads elsewhere.')
  const sheet = (elements: readonly Html.Element[]) =>
    elements
      .filter(({ tagName }) => tagName === 'style')
      .map(textIn)
      .join('')
  const [styles, published] = [sheet(inner), sheet(designed)]
  if (published !== '' && styles.trim() === '') tell('Its style sheet is missing.', damage['no-style-sheets'][1])
  const edits = [
    blanked(styles) !== blanked(published) ? 'its styles' : styles !== published ? 'colours' : null,
    squeezed(textIn(around).replace(styles, '')) ===
    squeezed(designed[0] ? textIn(designed[0]).replace(published, '') : '')
      ? null
      : 'words',
  ].filter((one) => one !== null)
  return {
    state: problems.length > 0 ? 'damaged' : 'edited',
    version: version.number,
    edits: problems.length > 0 ? [] : edits.length > 0 ? edits : ['attributes'],
    findings: [...problems, ...notes, ...olderFinding(version.number, latest, ours)],
  }
}

/** The wrapper element that carries the scope class; null where a site removed the class. */
export function cardAround(element: Html.Element): Html.Element | null {
  return ancestorsOf(element).find((one) => /(^| )askbox-card( |$)/.test(attribute(one, 'class') ?? '')) ?? null
}

/** A style sheet with the values of custom properties left out: owners are told that they may edit those. */
function blanked(css: string): string {
  return squeezed(css).replace(/(--askbox-[\w-]+):[^;}]*/g, '$1')
}

export function textIn(node: Html.ParentNode): string {
  return node.childNodes
    .map((child) => ('value' in child ? child.value : 'childNodes' in child ? textIn(child) : ''))
    .join(' ')
}
