import type { DefaultTreeAdapterTypes as Html } from 'parse5'
import { addressesOf } from './recognise'
import type { ExpectedCode } from './report'
import { squeezed } from './tokens'

/*
 * Where on a page something stands: first and last line, counted from 1.
 */

/** Lines on which an address of the code stands outside of the elements that were recognised; null for none. */
export function evidenceOf(
  html: string,
  ours: readonly Html.Element[],
  expected: ExpectedCode,
): [number, number] | null {
  const { spot, receiver, code, versions } = expected
  if (ours.length > 0) return null
  if (code !== 'plain' && code !== 'in-tags') {
    const address = addressesOf(expected).find((one) => html.includes(one))
    return address === undefined ? null : lineAround(html, address)
  }
  const address = `${receiver}/join/${spot.id}`
  if (html.includes(address)) return lineAround(html, address)
  // Where a site removed the addresses, the form's own words may still stand there.
  const { heading = '', button = '' } = versions.at(-1)?.content.words ?? {}
  return heading !== '' && [heading, button].every((text) => squeezed(html).includes(squeezed(text)))
    ? wordsIn(html, expected)
    : null
}

/** Lines of the first text of the form that the page contains; null where it contains none. */
export function wordsIn(html: string, { versions }: ExpectedCode): [number, number] | null {
  const content = versions.at(-1)?.content
  const words = [content?.words.heading, content?.words.button, ...(content?.fields.map(({ label }) => label) ?? [])]
  const anchor = words.find((text) => text && html.includes(text))
  return anchor === undefined ? null : lineAround(html, anchor)
}

export function linesOf({ sourceCodeLocation }: Html.Element, onlyStart = false): [number, number] | null {
  if (!sourceCodeLocation) return null
  const { startLine, endLine, startTag } = sourceCodeLocation
  return [startLine, onlyStart ? (startTag?.endLine ?? startLine) : endLine]
}

export function lineAround(html: string, text: string): [number, number] {
  const at = html.indexOf(text)
  const line = html.slice(0, Math.max(0, at)).split('\n').length
  return [line, line]
}
