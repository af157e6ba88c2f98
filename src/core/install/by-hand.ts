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
  const { form, button, around } = partsOf(ours)
  const inner = elementsBelow(around)
  const number = Number(
    attribute(inner.find((element) => attribute(element, 'name') === 'askbox-version') ?? around, 'value') ?? NaN,
  )
  const version = expected.versions.find((one) => one.number === number) ?? expected.versions.at(-1)!
  const designed = elementsBelow(parseFragment(codeFor(expected, version)))
  const styles = { here: sheetIn(inner), there: sheetIn(designed) }
  const controls = controlDifferences(inner, designed, version)
  const isUnstyled = styles.there !== '' && styles.here.trim() === ''
  const lines = linesOf(around)
  const tell = (message: string, weight: 'damage' | 'hint', mend = 'Paste the code anew in its place.') => ({
    ...({ code: 'changed', weight, message, mend, lines } as const),
  })
  const problems: InstallFinding[] = [
    ...[...controls.problems, ...sendingProblems(form, button, expected)].map((message) => tell(message, 'damage')),
    ...(isUnstyled ? [tell('Its style sheet is missing.', 'damage', damage['no-style-sheets'][1])] : []),
  ]
  const notes = controls.notes.map((message) => tell(message, 'hint'))
  return {
    state: problems.length > 0 ? 'damaged' : 'edited',
    version: version.number,
    edits: problems.length > 0 ? [] : editsOf(around, designed, styles),
    findings: [...problems, ...notes, ...olderFinding(version.number, latest, ours)],
  }
}

interface OwnParts {
  form: Html.Element | undefined
  button: Html.Element | undefined
  /** What all of the code stands in, as far as it can be told. */
  around: Html.Element
}

function partsOf(ours: readonly Html.Element[]): OwnParts {
  const ownForm = ours.find(({ tagName }) => tagName === 'form')
  // A form whose `action` a sanitizer removed is recognised by its button, and by its class.
  const button =
    ours.find(({ tagName }) => tagName === 'button') ??
    (ownForm && elementsBelow(ownForm).find((one) => one.tagName === 'button' && isSubmitButton(one)))
  const outer = button && closest(button, 'form')
  const form = ownForm ?? (outer && /(^| )askbox( |$)/.test(attribute(outer, 'class') ?? '') ? outer : undefined)
  const inside = form ?? button ?? ours[0]!
  const around = cardAround(inside) ?? form ?? (button && closest(button, 'div')) ?? inside
  return { form, button, around }
}

/** What is told of the form's controls; notes are of what is not needed to sign up. */
function controlDifferences(
  inner: readonly Html.Element[],
  designed: readonly Html.Element[],
  version: ExpectedCode['versions'][number],
): { problems: string[]; notes: string[] } {
  const problems: string[] = []
  const notes: string[] = []
  const [here, there] = [namedIn(inner), namedIn(designed)]
  for (const [name, control] of there) {
    const standing = here.get(name)
    if (standing === undefined && name === 'askbox-version')
      notes.push('The hidden field with the version is missing: answers are checked by the newest version.')
    else if (standing === undefined && name === honeypotName(version.form as FormId))
      notes.push('The hidden trap for bots is missing: people can sign up, and bots more easily.')
    else if (standing === undefined) problems.push(`The field “${name}” is missing.`)
    else if (typeOf(standing) !== typeOf(control) && !(typeOf(control) === 'email' && typeOf(standing) === 'text'))
      problems.push(`The field “${name}” is of another kind than it was made.`)
    else if (
      attribute(control, 'type') === 'hidden' &&
      name !== 'askbox-version' &&
      attribute(standing, 'value') !== attribute(control, 'value')
    )
      problems.push(`The hidden field “${name}” has another value.`)
  }
  for (const name of here.keys())
    if (!there.has(name))
      problems.push(`A field “${name}” stands there that the form does not have: its answers are not kept.`)
  return { problems, notes }
}

function namedIn(elements: readonly Html.Element[]): Map<string, Html.Element> {
  return new Map(
    elements.flatMap((element) => {
      const name = attribute(element, 'name')
      return name === null ? [] : [[name, element]]
    }),
  )
}

/** Where a press of the button sends, and how. */
function sendingProblems(
  form: Html.Element | undefined,
  button: Html.Element | undefined,
  { spot, receiver }: ExpectedCode,
): string[] {
  const address = `${receiver}/join/${spot.id}`
  const action = form && attribute(form, 'action')
  const isByButton = action === null && button !== undefined && attribute(button, 'formaction') === address
  const method = (button && attribute(button, 'formmethod')) ?? (form && attribute(form, 'method')) ?? ''
  return [
    ...(form !== undefined && action !== address && !isByButton ? ['The form sends to another address.'] : []),
    ...(form !== undefined && method.toLowerCase() !== 'post' ? ['The form is not sent by post.'] : []),
    ...(button === undefined ? ['The button is missing, or leads elsewhere.'] : []),
  ]
}

function sheetIn(elements: readonly Html.Element[]): string {
  return elements
    .filter(({ tagName }) => tagName === 'style')
    .map(textIn)
    .join('')
}

/** What its owner changed that does no harm. */
function editsOf(
  around: Html.Element,
  designed: readonly Html.Element[],
  { here, there }: { here: string; there: string },
): string[] {
  const words = squeezed(textIn(around).replace(here, ''))
  const published = squeezed(designed[0] ? textIn(designed[0]).replace(there, '') : '')
  const edits = [
    ...(blanked(here) !== blanked(there) ? ['its styles'] : here !== there ? ['colours'] : []),
    ...(words === published ? [] : ['words']),
  ]
  return edits.length > 0 ? edits : ['attributes']
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
