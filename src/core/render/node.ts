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

/**
 * The children that an element has once it is written and read again: fragments opened, strings beside each other
 * joined, and the line breaks between elements that make pasted code readable.
 */
export function childrenInDom(parent: Element): Node[] {
  const { tag } = parent
  if (VOID_ELEMENTS.has(tag)) return []
  if (tag === 'style') return [`\n${escapeStyle(parent.children.join(''))}\n`]
  if (tag === 'script') return [escapeScript(parent.children.join(''))]
  const nodes: Node[] = []
  const add = (node: Node) => {
    const last = nodes.at(-1)
    if (typeof node === 'string' && typeof last === 'string') nodes[nodes.length - 1] = last + node
    else if (node !== '') nodes.push(node)
  }
  const addAll = ({ children, tag }: Element) => {
    for (const child of children) {
      if (typeof child !== 'string' && child.tag === '') {
        addAll(child)
        continue
      }
      if (tag !== '' && opensLine(child)) add('\n')
      add(child)
    }
    if (tag !== '' && children.some(opensLine)) add('\n')
  }
  addAll(parent)
  return nodes
}

/** Serializes to HTML as HTML Living Standard section 13.3 describes; a parser gives back the same tree. */
export function toHtml(node: Node): string {
  if (typeof node === 'string') return escapeText(node)
  if (node.tag === '') return node.children.map(toHtml).join('')
  const start = `<${node.tag}${attributesOf(node)
    .map(([name, value]) => (value === true ? ` ${name}` : ` ${name}="${escapeAttribute(value)}"`))
    .join('')}>`
  if (VOID_ELEMENTS.has(node.tag)) return start
  const isRaw = node.tag === 'style' || node.tag === 'script'
  const inner = childrenInDom(node).map((child) => (isRaw ? (child as string) : toHtml(child)))
  // A parser drops the first line break of a textarea.
  return `${start}${node.tag === 'textarea' ? '\n' : ''}${inner.join('')}</${node.tag}>`
}

/** The attributes that are written; `true` for a bare name. */
export function attributesOf({ attributes }: Element): [name: string, value: string | true][] {
  return Object.entries(attributes).filter(
    (one): one is [string, string | true] => one[1] !== false && one[1] !== undefined,
  )
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
