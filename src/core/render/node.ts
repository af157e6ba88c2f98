/**
 * What a form is made of before it becomes text or DOM nodes. Everything typed by anybody enters as a
 * string child or an attribute value and is escaped here, in one place, so it can never become markup.
 */
export interface Element {
  /** Empty for several nodes in the place of one. */
  tag: string
  /** `true` writes the bare name; `false` and `undefined` leave the attribute out. */
  attributes: Record<string, string | boolean | undefined>
  children: Node[]
}
export type Node = Element | string

export function element(
  tag: string,
  attributes: Element['attributes'] = {},
  ...children: (Node | null | false)[]
): Element {
  return { tag, attributes, children: children.filter((child): child is Node => child !== null && child !== false) }
}

/** HTML Living Standard, section 13.1.2: elements without content and so without an end tag. */
const VOID_ELEMENTS = new Set(['input', 'meta', 'link', 'br', 'img', 'hr', 'source'])
/** Broken onto lines of their own, so that people can read pasted code and edit it. */
const ON_OWN_LINE = new Set([
  'form',
  'div',
  'label',
  'input',
  'button',
  'p',
  'h1',
  'h2',
  'ul',
  'li',
  'style',
  'head',
  'body',
  'title',
  'meta',
  'main',
  'html',
  'fieldset',
  'legend',
  'select',
  'option',
  'textarea',
  'ol',
  'figure',
  'blockquote',
  'figcaption',
  'picture',
  'source',
  'iframe',
  'header',
  'section',
  'script',
])

/** Serializes to HTML as HTML Living Standard section 13.3 describes; a parser gives back the same tree. */
export function toHtml(node: Node): string {
  if (typeof node === 'string') return escapeText(node)
  if (node.tag === '') return node.children.map(toHtml).join('')
  const attributes = Object.entries(node.attributes)
    .filter(([, value]) => value !== false && value !== undefined)
    .map(([name, value]) => (value === true ? ` ${name}` : ` ${name}="${escapeAttribute(String(value))}"`))
    .join('')
  const start = `<${node.tag}${attributes}>`
  if (VOID_ELEMENTS.has(node.tag)) return start
  const inner =
    node.tag === 'style'
      ? `\n${escapeStyle(node.children.join(''))}\n`
      : node.tag === 'script'
        ? escapeScript(node.children.join(''))
        : node.tag === 'textarea'
          ? // A parser drops the first line break of a textarea.
            `\n${node.children.map(toHtml).join('')}`
          : node.children.map((child) => (opensLine(child) ? `\n${toHtml(child)}` : toHtml(child))).join('')
  const end = node.children.some(opensLine) ? '\n' : ''
  return `${start}${inner}${end}</${node.tag}>`
}

function opensLine(node: Node): boolean {
  return typeof node !== 'string' && ON_OWN_LINE.has(node.tag)
}

export function escapeText(text: string): string {
  return text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;')
}

function escapeAttribute(text: string): string {
  return escapeText(text).replaceAll('"', '&quot;')
}

/** JSON inside `<script type="application/json">` is raw text: `<` is written as JSON's own escape. */
function escapeScript(json: string): string {
  return json.replaceAll('<', '\\u003c')
}

/** A style sheet inside `<style>` is raw text: only its own end tag could end it, so none may stand in it. */
function escapeStyle(css: string): string {
  return css.replaceAll('</', '<\\/')
}
