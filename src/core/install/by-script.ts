import { defaultTreeAdapter as tree, type DefaultTreeAdapterTypes as Html, serialize } from 'parse5'
import { attribute, elementsBelow, textIn } from '#core/submission'
import { linesOf } from './lines'
import { addressesOf } from './recognise'
import type { ExpectedCode, InstallFinding } from './report'

/** Attributes that load or send something: what stands in them is an address, and no code. */
const ADDRESSES = new Set(['href', 'src', 'action', 'formaction', 'data', 'cite', 'poster', 'srcset', 'ping'])

/**
 * Code that stands on a page as material of a script: in a string, in JSON, in `srcdoc`, in a template that is cloned or is
 * a declarative shadow root. What becomes of it only a browser sees.
 */
export function builtByScript(document: Html.Document, expected: ExpectedCode): InstallFinding | null {
  const { spot, code, receiver } = expected
  const paths =
    code === 'plain' || code === 'in-tags'
      ? [`/join/${spot.id}`]
      : addressesOf(expected).map((address) => address.slice(receiver.length).split('#')[0]!)
  // As it is, with a backslash before the slash (JSON, strings of scripts), or percent-encoded.
  const spellings = paths.flatMap((path) => [path, path.replaceAll('/', '\\/'), encodeURIComponent(path)])
  const holds = (text: string) => spellings.some((spelling) => text.includes(spelling))
  const elements = elementsBelow(document)
  const hasScripts = elements.some(({ tagName }) => tagName === 'script')
  const isMaterial = (one: Html.Element): boolean => {
    if (one.tagName === 'script') return attribute(one, 'src') === null && holds(textIn(one))
    if (one.tagName === 'template')
      return (
        (hasScripts || attribute(one, 'shadowrootmode') !== null) && holds(serialize((one as Html.Template).content))
      )
    return one.attrs.some(({ name, value }) => !ADDRESSES.has(name) && value.includes('<') && holds(value))
  }
  const material = elements.find(isMaterial)
  return material === undefined
    ? null
    : {
        code: 'by-script',
        weight: 'hint',
        message: 'The code stands there as material of a script: what it makes of it, only a browser sees.',
        mend: 'Rehearse the spot: with a browser at the receiver it tells whether visitors can sign up.',
        lines: linesOf(material, true),
      }
}

/**
 * The shared line written as XML (`<script …/>`): in HTML nothing ends it, so the rest of the page is taken for a script.
 * HTML, section 13.2.5.4.
 */
export function unendedLine(document: Html.Document, { receiver }: ExpectedCode): InstallFinding | null {
  const line = elementsBelow(document).find(
    (one) =>
      one.tagName === 'script' &&
      (attribute(one, 'src') ?? '').startsWith(`${receiver}/askbox.js`) &&
      one.childNodes.some((node) => tree.isTextNode(node) && node.value.includes('<')),
  )
  return line === undefined
    ? null
    : {
        code: 'line-inert',
        weight: 'damage',
        message: 'The shared line is written as XML (“/>”): the rest of the page is taken for a script, and not shown.',
        mend: 'Write “></script>” at its end in place of “/>”.',
        lines: linesOf(line, true),
      }
}
