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

/** Orders of damage that are tried, those that do most first: what they leave holds what the lesser ones leave. */
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

/** The newest, then whichever the page itself names. */
export function versionsToTry(html: string, { versions }: ExpectedCode): Version[] {
  const named = Number(
    /name=(?:"|&quot;|”|“)?askbox-version(?:"|&quot;|”|“)? value=(?:"|&quot;|”|“)?(\d+)/.exec(html)?.[1],
  )
  const newest = versions.at(-1)
  return [newest, versions.find(({ number }) => number === named && number !== newest?.number)].filter(
    (one) => one !== undefined,
  )
}

/** What is left of a code after some manglings. Replays begin alike, so each beginning is worked out once. */
export function afterManglings(code: string): (replay: readonly Mangling[]) => string {
  const known = new Map([['', code]])
  return function after(replay: readonly Mangling[]): string {
    const key = replay.join()
    const html = known.get(key) ?? mangled(after(replay.slice(0, -1)), replay.at(-1)!)
    known.set(key, html)
    return html
  }
}

/** A damaged piece's tokens as far as its address, after which pieces differ by what was measured or chosen. */
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
  // What closes in the beginning goes on in the whole.
  while (tokens.at(-1)?.startsWith('</')) tokens.pop()
  return tokens.join(BETWEEN)
}

const pieces = new Map<string, string>()

/** Its tokens alone, or as the browser reads them inside another form. */
export function pieceOf(html: string, isWithinForm: boolean): string {
  const source = isWithinForm ? `<form>${html}</form>` : html
  const known = pieces.get(source)
  if (known !== undefined) return known
  const { childNodes } = parseFragment(source)
  const piece = tokensOf(isWithinForm ? ((childNodes[0] as Html.Element | undefined)?.childNodes ?? []) : childNodes)
  if (pieces.size > 500) pieces.clear()
  pieces.set(source, piece)
  return piece
}
