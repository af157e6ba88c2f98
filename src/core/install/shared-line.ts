import { attribute, closest } from '#core/submission'
import type { DefaultTreeAdapterTypes as Html } from 'parse5'
import { textIn } from './by-hand'
import { linesOf } from './lines'
import { scriptAddress } from './recognise'
import type { ExpectedCode, InstallFinding, PageToCheck } from './report'

/*
 * The one line that brings in the visitors’ script.
 */

export function lineFindings(
  page: PageToCheck,
  elements: readonly Html.Element[],
  { spot, code, receiver }: ExpectedCode,
): InstallFinding[] {
  const address = `${receiver}/askbox.js`
  const scripts = elements.filter(
    (element) => element.tagName === 'script' && scriptAddress(element, page.address) === address,
  )
  const shared = scripts.filter((script) => !attribute(script, 'src')!.includes('#'))
  const isByScript = elements.some(
    (element) =>
      element.tagName === 'script' &&
      attribute(element, 'src') === null &&
      textIn(element).replaceAll('\\/', '/').includes(address),
  )
  const manager = elements.find(
    (element) => element.tagName === 'script' && MANAGES_TAGS.test(attribute(element, 'src') ?? ''),
  )
  if (code === 'script' && spot.kind !== 'pop-up' && scripts.length === 0 && isByScript) return []
  if (code === 'script' && spot.kind !== 'pop-up' && scripts.length === 0 && manager !== undefined)
    return [
      {
        code: 'line-unseen',
        weight: 'hint',
        message:
          'The shared line is not in the page’s source. What manages the site’s tags may bring it in; only a browser sees that.',
        mend: 'Rehearse the spot: with a browser at the receiver it tells. Or paste the shared line into the head of the site.',
        lines: linesOf(manager),
      },
    ]
  if (code === 'script' && spot.kind !== 'pop-up' && scripts.length === 0)
    return [
      {
        code: 'line-missing',
        weight: 'damage',
        message: 'The shared line is missing: visitors see a link in the place of the form.',
        mend: 'Paste the shared line into the head of the site, once.',
        lines: null,
      },
    ]
  const reasons = scripts.map(inertBecause)
  if (code === 'script' && scripts.length > 0 && reasons.every((reason) => reason !== null))
    return [
      {
        code: 'line-inert',
        weight: 'damage',
        message: `The line is there, but browsers do not run it: ${reasons[0]!}.`,
        mend: 'Let the site leave this line as it is: exempt it from what optimizes scripts or waits for consent, or choose the form itself, a frame or a link.',
        lines: linesOf(scripts[0]!),
      },
    ]
  if (shared.length > 1)
    return [
      {
        code: 'line-twice',
        weight: 'hint',
        message: `The shared line stands there ${shared.length === 2 ? 'twice' : `${shared.length} times`}.`,
        mend: 'It does no harm. One is enough.',
        lines: linesOf(shared[1]!),
      },
    ]
  return []
}

/** File names of tag managers: scripts that load others by rules kept elsewhere. Common practice, no published source. */
const MANAGES_TAGS = /(?:^|[/._-])(?:gtm|u?tags?|tag-?manager|container)(?:[/._-]|$)/i

/** JavaScript MIME types, WHATWG MIME Sniffing, section 4.6. */
const SCRIPT_TYPES =
  /^(?:(?:application|text)\/(?:x-)?(?:java|ecma)script|text\/(?:javascript1\.[0-5]|jscript|livescript))$/

/** Why a browser does not run a script as ours has to be run; null where it does. HTML, section 4.12.1.1. */
function inertBecause(script: Html.Element): string | null {
  const type = (attribute(script, 'type') ?? '').trim().toLowerCase()
  if (type === 'module') return 'as a module (type="module") it does not know where it came from'
  if (type !== '' && !SCRIPT_TYPES.test(type)) return `its type is “${type}”, which is none of a script`
  if (attribute(script, 'nomodule') !== null) return 'it is for browsers of long ago alone (nomodule)'
  if (attribute(script, 'integrity') !== null) return 'it is held against a fixed copy (integrity), and it changes'
  const within = ['template', 'noscript'].find((tag) => closest(script, tag) !== null)
  return within === undefined ? null : `it stands within <${within}>`
}
