import { frameAddress, pageAddress, plainCode } from '#core/embed'
import type { Version } from '#core/form'
import type { CodeKind } from '#core/spot'
import { attribute, resolvedOn } from '#core/submission'
import type { DefaultTreeAdapterTypes as Html } from 'parse5'
import type { ExpectedCode } from './report'

/*
 * By what a spot’s code is known on a page, whatever became of it.
 */

/** Kinds of code that have an element of their own kind: a form, a link, a frame. */
export const KINDS: readonly CodeKind[] = ['plain', 'script', 'frame', 'link']

/** Characters kept before and after each mark: no code, mangled or not, is longer. */
export const NEAR = 16_000

/** Texts to search a page for: every known mangling leaves at least one of them. */
export function marksOf({ spot, receiver, versions, others }: ExpectedCode): string[] {
  const content = versions.at(-1)?.content
  const words = [content?.words.heading, content?.words.button, ...(content?.fields.map(({ label }) => label) ?? [])]
  return [
    receiver,
    ...[spot.id, ...others.keys()].map((id) => `/join/${id}`),
    ...[`/page/${spot.id}`, `/frame/${spot.id}`, `#pop-up-${spot.id}`],
    // Of longer words a part without quotes or entities, which no editor rewrites.
    ...words.flatMap((text) => /[\p{L}\p{N} ]{4,}/u.exec(text ?? '')?.[0].trim() ?? []),
  ].filter((text) => text.length > 3)
}

/** The elements by which a spot's code is known. */
export function isCode(element: Html.Element, { spot, code, receiver }: ExpectedCode): boolean {
  const has = (name: string, value: string) => attribute(element, name) === value
  // Optimizers leave out the scheme.
  const isAddress = (name: string, value: string) => has(name, value) || has(name, value.replace(/^https?:/, ''))
  if (code === 'script' && spot.kind === 'pop-up')
    return (
      element.tagName === 'script' &&
      scriptAddress(element, receiver, true) === `${receiver}/askbox.js#pop-up-${spot.id}`
    )
  switch (code) {
    case 'plain':
    case 'in-tags':
      return has('action', `${receiver}/join/${spot.id}`) || has('formaction', `${receiver}/join/${spot.id}`)
    default:
      // What only carries the address, as a picture or a preload does, is none.
      if (!(code === 'frame' ? FRAMES : LINKS).has(element.tagName)) return false
      return addressesOf({ spot, code, receiver }).some(
        (address) =>
          isAddress('href', address) ||
          isAddress('src', address) ||
          attribute(element, 'href')?.startsWith(`${address}?`),
      )
  }
}

const FRAMES = new Set(['iframe', 'frame', 'embed'])
const LINKS = new Set(['a', 'area'])

/** Whether an element is this spot's code with another receiver's address in it. */
export function isOfOtherReceiver(element: Html.Element, { spot, code, receiver }: ExpectedCode): boolean {
  const ends =
    code === 'plain' || code === 'in-tags'
      ? [`/join/${spot.id}`]
      : addressesOf({ spot, code, receiver }).map((address) => address.slice(receiver.length))
  return ['action', 'formaction', 'href', 'src'].some((name) => {
    const address = attribute(element, name) ?? ''
    return /^https?:\/\//.test(address) && ends.some((end) => address.endsWith(end) && !address.startsWith(receiver))
  })
}

/** The code as published, for the codes that hold the form itself. */
export function codeFor({ code, spot, receiver, inTags }: ExpectedCode, { content, form, number }: Version): string {
  const placed = { content, form, version: number, spot: spot.id, receiver }
  return code === 'in-tags' && inTags !== undefined ? inTags(placed) : plainCode(placed)
}

/** What identifies the codes that fetch the form: the address in them, with the beginning of the piece that it stands in. */
export function addressesOf({ spot, code, receiver }: Pick<ExpectedCode, 'spot' | 'code' | 'receiver'>): string[] {
  switch (code) {
    case 'script':
      return [
        spot.kind === 'pop-up' ? `${receiver}/askbox.js#pop-up-${spot.id}` : `${pageAddress(receiver, spot.id)}#askbox`,
      ]
    case 'frame':
      return [frameAddress(receiver, spot.id)]
    default:
      return [spot.id, spot.slug].flatMap((end) => (end === undefined ? [] : [pageAddress(receiver, end)]))
  }
}

export function hasAddress(text: string, expected: ExpectedCode): boolean {
  return addressesOf(expected).some((address) => text.includes(address))
}

/** Where a script is fetched from, without what a site adds to it (`?ver=`), from whatever page. */
export function scriptAddress(script: Html.Element, page: string | null, withHash = false): string | null {
  const src = attribute(script, 'src')
  const address = src === null ? null : resolvedOn(src, page)
  const at = withHash ? (src ?? '').indexOf('#') : -1
  const hash = at < 0 ? '' : src!.slice(at)
  return address === null ? null : `${address.origin}${address.pathname}${hash}`
}
