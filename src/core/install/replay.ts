import { placePart, popUpPart } from '#core/embed'
import type { Version } from '#core/form'
import { type DefaultTreeAdapterTypes as Html, parseFragment } from 'parse5'
import { mangled, type Mangling } from './manglings'
import { addressesOf } from './recognise'
import type { ExpectedCode } from './report'
import { BETWEEN, tokensOf } from './tokens'

/*
 * The damage that sites are known to do, done to the code as published, until it is what stands on the page.
 */

/** Sequences of manglings to replay, longest first: a page that a sequence explains is also explained by parts of it. */
export const REPLAYS: readonly (readonly Mangling[])[] = [
  [],
  ['curly-quotes', 'as-text', 'paragraphs'],
  ['as-text', 'paragraphs'],
  ['curly-quotes', 'as-text'],
  ['as-text'],
  ['curly-quotes', 'paragraphs'],
  ['paragraphs'],
  ['curly-quotes'],
  ['no-style-sheets', 'no-attributes'],
  ['no-attributes'],
  ['no-style-sheets', 'no-style-attributes'],
  ['no-style-sheets'],
  ['no-style-attributes'],
  ['no-forms', 'no-attributes', 'no-style-sheets'],
  ['no-forms', 'no-style-sheets', 'no-style-attributes'],
  ['no-forms', 'no-style-sheets'],
  ['no-forms'],
  ['links-only'],
]

/** Versions to compare the page with: the newest, then those whose numbers stand on the page. */
export function versionsToTry(html: string, { versions }: ExpectedCode): Version[] {
  const named = Number(
    /name=(?:"|&quot;|”|“)?askbox-version(?:"|&quot;|”|“)? value=(?:"|&quot;|”|“)?(\d+)/.exec(html)?.[1],
  )
  const newest = versions.at(-1)
  return [newest, versions.find(({ number }) => number === named && number !== newest?.number)].filter(
    (one) => one !== undefined,
  )
}

/** Applies sequences of manglings to a code. Common beginnings are computed once. */
export function afterManglings(code: string): (replay: readonly Mangling[]) => string {
  const outcomes = new Map([['', code]])
  return function after(replay: readonly Mangling[]): string {
    const key = replay.join()
    const html = outcomes.get(key) ?? mangled(after(replay.slice(0, -1)), replay.at(-1)!)
    outcomes.set(key, html)
    return html
  }
}

/** Tokens of a mangled frame or link up to its address. What follows (sizes, words) differs from page to page. */
export function beginningOf(expected: ExpectedCode, replay: readonly Mangling[]): string {
  const { spot, code, receiver, versions } = expected
  const [address] = addressesOf(expected)
  const whole =
    code !== 'script'
      ? `<${code === 'frame' ? 'iframe src' : 'a href'}="${address}"`
      : spot.kind === 'pop-up'
        ? popUpPart(receiver, spot.id)
        : placePart(versions.at(-1)!.content, receiver, spot.id, null)
  const until = whole.indexOf(address!) + address!.length
  const tokens = tokensOf(parseFragment(mangled(whole.slice(0, until), ...replay)).childNodes).split(BETWEEN)
  // The parser closes what was cut off; the end tags that it added are not on the page.
  while (tokens.at(-1)?.startsWith('</')) tokens.pop()
  return tokens.join(BETWEEN)
}

const pieces = new Map<string, string>()

/** Tokens of a code by itself, or as parsed inside another `<form>`, where the parser drops ours. */
export function pieceOf(html: string, isWithinForm: boolean): string {
  const source = isWithinForm ? `<form>${html}</form>` : html
  const cached = pieces.get(source)
  if (cached !== undefined) return cached
  const { childNodes } = parseFragment(source)
  const piece = tokensOf(isWithinForm ? ((childNodes[0] as Html.Element | undefined)?.childNodes ?? []) : childNodes)
  if (pieces.size > 500) pieces.clear()
  pieces.set(source, piece)
  return piece
}
