import { codeAs, codeNames } from '#core/embed'
import type { CodeKind } from '#core/spot'
import { elementsBelow } from '#core/submission'
import { parseFragment, serialize } from 'parse5'
import { mangled, type Mangling } from './manglings'
import { isCode } from './recognise'
import type { ExpectedCode } from './report'

/** Manglings that another place to paste avoids; the others are what a kind of site does everywhere. */
const BY_PLACE = new Set<Mangling>(['as-text', 'curly-quotes', 'paragraphs'])
/** Codes that may be chosen instead, those that keep most of the form first. */
const KINDS = ['in-tags', 'plain', 'script', 'frame', 'link'] as const satisfies readonly CodeKind[]

/**
 * The code that a site leaves whole which does this to what is pasted, found by doing the same to each; null where another
 * place to paste helps, or where none is left whole.
 */
export function codeThatSurvives(does: readonly Mangling[], expected: ExpectedCode): CodeKind | null {
  if (does.every((one) => BY_PLACE.has(one))) return null
  const lasting = does.filter((one) => !BY_PLACE.has(one))
  return KINDS.find((code) => code !== expected.code && survives(code, lasting, expected)) ?? null
}

/** What to do about it, in words. */
export function cure(does: readonly Mangling[], expected: ExpectedCode): string | null {
  const code = codeThatSurvives(does, expected)
  if (code !== null)
    return `Choose another code, which this kind of site leaves whole: ${codeNames[code].toLowerCase()}.`
  return does.some((one) => !BY_PLACE.has(one)) && does.includes('links-only')
    ? 'Write a link with the site’s own means for links, to the address of the form’s page.'
    : null
}

function survives(code: (typeof KINDS)[number], does: readonly Mangling[], expected: ExpectedCode): boolean {
  const version = expected.versions.at(-1)
  if (version === undefined || (code === 'in-tags' && expected.inTags === undefined)) return false
  // Its line stands in the head, and is taken out as scripts are.
  if (code === 'script' && does.includes('no-scripts')) return false
  const { spot, receiver, inTags } = expected
  const html = codeAs(code, { spot, version, heights: null, title: '' }, receiver, inTags)
  const after = mangled(html, ...does)
  // A form of which anything is missing looks or works otherwise.
  if (code === 'in-tags') return after === serialize(parseFragment(html))
  // Its only style attribute is the trap's, which the style sheet hides as well.
  if (code === 'plain') return mangled(after, 'no-style-attributes') === mangled(html, 'no-style-attributes')
  return elementsBelow(parseFragment(after)).some((one) => isCode(one, { ...expected, code }))
}
