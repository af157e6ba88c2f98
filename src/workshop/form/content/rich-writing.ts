import { type Block, FOLLOWABLE_LINK, type RichText, type Span, tidied } from '#core/text'

/**
 * Reads what stands in an element that somebody writes in. Only what rich text knows comes out of it: whatever
 * else was typed, pasted or dropped there is read as its words alone.
 */
export function readRich(place: HTMLElement): RichText {
  const blocks: Block[] = []
  let open: Span[] = []
  const close = () => {
    const spans = withoutEndBreak(tidied(open))
    if (spans.length > 0) blocks.push({ kind: 'paragraph', spans })
    open = []
  }
  const read = (node: Node, format: Omit<Span, 'text'>): void => {
    if (node.nodeType === Node.TEXT_NODE) {
      open.push({ text: node.textContent ?? '', ...format })
      return
    }
    if (!(node instanceof (node.ownerDocument?.defaultView as typeof window).HTMLElement)) return
    const tag = node.tagName.toLowerCase()
    if (/^(script|style|template|title|head)$/.test(tag)) return
    if (tag === 'br') {
      open.push({ text: '\n', ...format })
    } else if (tag === 'ul' || tag === 'ol') {
      close()
      const items = [...node.children].map((item) => {
        const outer = open
        open = []
        for (const child of item.childNodes) read(child, {})
        const spans = withoutEndBreak(tidied(open))
        open = outer
        return spans
      })
      blocks.push({ kind: tag === 'ul' ? 'bullets' : 'numbers', items: items.filter((item) => item.length > 0) })
    } else if (BLOCKS.test(tag) && node !== place) {
      close()
      for (const child of node.childNodes) read(child, format)
      close()
    } else {
      const inner = formatOf(node, tag, format)
      for (const child of node.childNodes) read(child, inner)
    }
  }
  for (const child of place.childNodes) read(child, {})
  close()
  return blocks.filter((block) => block.kind === 'paragraph' || block.items.length > 0)
}

const BLOCKS = /^(p|div|h[1-6]|section|article|blockquote|pre|table|tr|header|footer|li|dd|dt|figure)$/

function formatOf(node: HTMLElement, tag: string, format: Omit<Span, 'text'>): Omit<Span, 'text'> {
  if (tag === 'b' || tag === 'strong') return { ...format, bold: true }
  if (tag === 'i' || tag === 'em') return { ...format, italic: true }
  const link = tag === 'a' ? (node.getAttribute('href') ?? '') : ''
  return FOLLOWABLE_LINK.test(link) ? { ...format, link } : format
}

/** Browsers keep a line break at the end of what is being written, so that there is a line to stand on. */
function withoutEndBreak(spans: Span[]): Span[] {
  const last = spans.at(-1)
  if (last === undefined || !last.text.endsWith('\n')) return spans
  const text = last.text.slice(0, -1)
  return text === '' ? spans.slice(0, -1) : [...spans.slice(0, -1), { ...last, text }]
}

/** Puts pasted text in as what rich text knows; a page's markup is read, never put in. */
export function pasteRich(event: ClipboardEvent, page: Document, asPlainText: boolean): void {
  event.preventDefault()
  const plain = (event.clipboardData?.getData('text/plain') ?? '').replaceAll('\0', '')
  const markup = event.clipboardData?.getData('text/html') ?? ''
  if (asPlainText || markup === '') {
    page.execCommand('insertText', false, plain)
    return
  }
  const inert = page.implementation.createHTMLDocument('')
  inert.body.innerHTML = markup
  const host = page.createElement('div')
  for (const block of readInert(inert.body, page)) host.append(nodeOf(block, page))
  page.execCommand('insertHTML', false, host.innerHTML)
}

function readInert(body: HTMLElement, page: Document): RichText {
  const copy = page.createElement('div')
  // Only text and the few elements that are read go along: an image would load as soon as it belonged to the page.
  const take = (from: Node, to: HTMLElement): void => {
    for (const child of from.childNodes) {
      if (child.nodeType === Node.TEXT_NODE)
        to.append(page.createTextNode((child.textContent ?? '').replace(/\s+/g, ' ')))
      else if (child.nodeType === Node.ELEMENT_NODE) {
        const tag = (child as Element).tagName.toLowerCase()
        if (/^(script|style|template|iframe|object|embed|svg|math|head|title|noscript)$/.test(tag)) continue
        const made = page.createElement(
          /^(b|strong|i|em|a|p|div|ul|ol|li|br|h[1-6]|blockquote|section|article|tr)$/.test(tag) ? tag : 'span',
        )
        if (tag === 'a') made.setAttribute('href', (child as Element).getAttribute('href') ?? '')
        take(child, made)
        to.append(made)
      }
    }
  }
  take(body, copy)
  return readRich(copy)
}

function nodeOf(block: Block, page: Document): HTMLElement {
  const fill = (node: HTMLElement, spans: readonly Span[]) => {
    for (const { text, bold, italic, link } of spans) {
      let inner: Node = page.createTextNode(text)
      for (const tag of [bold && 'strong', italic && 'em', link && 'a']) {
        if (!tag) continue
        const outer = page.createElement(tag)
        if (tag === 'a') outer.setAttribute('href', link!)
        outer.append(inner)
        inner = outer
      }
      node.append(inner)
    }
    return node
  }
  if (block.kind === 'paragraph') return fill(page.createElement('p'), block.spans)
  const list = page.createElement(block.kind === 'bullets' ? 'ul' : 'ol')
  for (const item of block.items) list.append(fill(page.createElement('li'), item))
  return list
}

/** A selection that outlives a new rendering: the element's place in the page, and letters counted in it. */
export interface KeptSelection {
  path: number[]
  start: number
  end: number
}

export function keepSelection(place: HTMLElement): KeptSelection | null {
  const page = place.ownerDocument
  const selection = page.getSelection()
  if (selection === null || selection.rangeCount === 0) return null
  const range = selection.getRangeAt(0)
  const path: number[] = []
  for (let node: Element = place; node.parentElement !== null && node !== page.body; node = node.parentElement)
    path.unshift([...node.parentElement.children].indexOf(node))
  const before = page.createRange()
  before.selectNodeContents(place)
  before.setEnd(range.startContainer, range.startOffset)
  const start = before.toString().length
  return { path, start, end: start + range.toString().length }
}

/** Selects again what was kept, and resolves with the element that holds it. */
export function restoreSelection(page: Document, { path, start, end }: KeptSelection): HTMLElement | null {
  let place: Element | undefined = page.body
  for (const at of path) place = place?.children[at]
  if (place === undefined) return null
  const range = page.createRange()
  range.selectNodeContents(place)
  range.collapse(true)
  let passed = 0
  const walker = page.createTreeWalker(place, NodeFilter.SHOW_TEXT)
  for (let node = walker.nextNode(); node !== null; node = walker.nextNode()) {
    const length = node.textContent?.length ?? 0
    if (start >= passed && start <= passed + length) range.setStart(node, start - passed)
    if (end >= passed && end <= passed + length) {
      range.setEnd(node, end - passed)
      break
    }
    passed += length
  }
  ;(place as HTMLElement).focus()
  const selection = page.getSelection()
  selection?.removeAllRanges()
  selection?.addRange(range)
  return place as HTMLElement
}
