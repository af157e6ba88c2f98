import {
  type DefaultTreeAdapterMap,
  defaultTreeAdapter,
  type DefaultTreeAdapterTypes as Html,
  html,
  Parser,
} from 'parse5'

/** Elements whose form owner a parser sets, as far as forms here have them (HTML, section 4.10.2). */
const ASSOCIATED = new Set(['input', 'select', 'textarea', 'button', 'fieldset', 'output', 'object'])
const owners = new WeakMap<Html.Element, Html.Element>()

/**
 * A page with the places of its source, and with the form that the parser associated each control with: the form element
 * pointer, which may be of a form that a table, or an end tag in the wrong place, tore from its fields. HTML, section
 * 13.2.6.1, "create an element for a token".
 */
export function parsePage(text: string): Html.Document {
  const parser: Parser<DefaultTreeAdapterMap> = new Parser<DefaultTreeAdapterMap>({
    sourceCodeLocationInfo: true,
    treeAdapter: {
      ...defaultTreeAdapter,
      createElement(tagName, namespace, attrs) {
        const element = defaultTreeAdapter.createElement(tagName, namespace, attrs)
        const { formElement, openElements } = parser
        if (
          formElement !== null &&
          openElements.tmplCount === 0 &&
          namespace === html.NS.HTML &&
          ASSOCIATED.has(tagName)
        )
          owners.set(element, formElement)
        return element
      },
    },
  })
  parser.tokenizer.write(text, true)
  return parser.document
}

/** The form that was open for the parser when it met a control; null for none. */
export function openForm(control: Html.Element): Html.Element | null {
  return owners.get(control) ?? null
}
