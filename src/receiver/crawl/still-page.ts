import { defaultTreeAdapter as tree, type DefaultTreeAdapterTypes as Html, serialize } from 'parse5'
import { attribute, parsePage, resolvedOn } from '#core/submission'
import { fetchPage, guardedRequest, OutsideProblem } from '../outside'

/*
 * A page as a still: as its visitors see it, without anything that runs or leads elsewhere. Its styles and pictures are put
 * into it, so that it needs nothing from its site, whose owner's visitors are not counted for it.
 */

const MOST_SHEETS = 16
const SHEET_BYTES = 1024 * 1024
const MOST_PICTURES = 60
const PICTURE_BYTES = 1024 * 1024
/** Of everything that is put in. */
const ALL_BYTES = 8 * 1024 * 1024
const ALL_MS = 15_000
const AT_ONCE = 6
/** Deeper than this no browser nests (Blink and Gecko: 512). */
const MOST_DEPTH = 512
const MOST_ELEMENTS = 50_000

/** What runs, loads, leads away or is drawn by another program. */
const LEFT_OUT = new Set([
  ...['script', 'noscript', 'iframe', 'frame', 'object', 'embed', 'applet', 'base', 'portal', 'template'],
  ...['audio', 'video', 'source', 'track'],
  // They set attributes of others once they are shown.
  ...['set', 'animate', 'animatetransform', 'animatemotion', 'animatecolor'],
])
const PICTURE_TYPES = /^image\/(?:png|jpeg|gif|webp|avif|svg\+xml)\b/i

/** The page's HTML; throws an `OutsideProblem` in words for its owner. */
export async function stillPage(
  address: string,
  allowed: readonly string[],
): Promise<{ html: string; address: string }> {
  const page = await fetchPage(address, allowed)
  if (page.status >= 400) throw new OutsideProblem(`The page answers ${page.status}.`)
  const document = parsePage(page.html)
  const elements = strippedOf(document)
  const loading = openLoading(allowed)
  const sheets = elements.filter(isSheet).slice(0, MOST_SHEETS)
  const pictures = elements.filter(({ tagName }) => tagName === 'img').slice(0, MOST_PICTURES)
  await inTurns([
    ...sheets.map((sheet) => () => putSheet(sheet, page.address, loading)),
    ...pictures.map((picture) => () => putPicture(picture, page.address, loading)),
  ])
  // What was not fetched would be asked for again, in vain.
  for (const one of elements) if (one.tagName === 'link') detach(one)
  return { html: settled(document), address: page.address }
}

/**
 * A document as text that is read as that very document: markup that changes when it is written and read again could bring
 * back what was taken out (HTML, section 13.3, tells of such).
 *
 * @throws OutsideProblem for a page that goes on changing
 */
function settled(document: Html.Document): string {
  const written = (one: Html.Document) => `<!DOCTYPE html>${serialize(one).replace(/^<!DOCTYPE[^>]*>/i, '')}`
  let html = written(document)
  for (let round = 0; round < 4; round += 1) {
    const again = parsePage(html)
    strippedOf(again)
    const next = written(again)
    if (next === html) return html
    html = next
  }
  throw new OutsideProblem('The page’s markup changes each time that it is read.')
}

/** Takes out what has no place in a still; the elements that are left, in tree order. Without recursion: pages may be deep. */
function strippedOf(document: Html.Document): Html.Element[] {
  const kept: Html.Element[] = []
  const waiting: { node: Html.ParentNode; depth: number }[] = [{ node: document, depth: 0 }]
  while (waiting.length > 0) {
    const { node, depth } = waiting.pop()!
    if (depth > MOST_DEPTH) throw new OutsideProblem('The page is nested deeper than browsers go.')
    node.childNodes = node.childNodes.filter((child) => !tree.isCommentNode(child) && !isLeftOut(child))
    for (const child of node.childNodes.toReversed())
      if (tree.isElementNode(child)) waiting.push({ node: child, depth: depth + 1 })
    if (!tree.isElementNode(node as Html.Node)) continue
    const element = node as Html.Element
    element.attrs = element.attrs.filter(isHarmless)
    kept.push(element)
    if (kept.length > MOST_ELEMENTS) throw new OutsideProblem('The page has more parts than can be shown.')
  }
  return kept
}

function isLeftOut(node: Html.Node): boolean {
  if (!tree.isElementNode(node)) return false
  return LEFT_OUT.has(node.tagName.toLowerCase()) || (node.tagName === 'meta' && attribute(node, 'http-equiv') !== null)
}

const HARMFUL_NAMES = new Set([
  ...['action', 'formaction', 'ping', 'srcdoc', 'autofocus', 'srcset', 'imagesrcset', 'target', 'nonce', 'integrity'],
])
/** Schemes that a still may name; of `data:`, pictures alone. */
const HARMLESS_SCHEMES = /^(?:https?|mailto|tel):|^data:image\/(?:png|jpe?g|gif|webp|avif|svg\+xml)[;,]/i
const SCHEME = /^[a-z][a-z0-9+.-]*:/i
/** What people read, and what names parts of the page, whatever it looks like. */
const READ_NAMES =
  /^(?:id|for|name|alt|title|placeholder|value|content|label|summary|class|style|media|lang|aria-[a-z]+|data-[\w-]+)$/

/**
 * By name: programs, what is sent, and what opens by itself. By value: an address of another scheme than pages are of, as
 * browsers read it, without the signs that they skip (URL Standard, section 4.4: C0 control or space, tab, newline).
 */
function isHarmless({ name, prefix, value }: { name: string; prefix?: string; value: string }): boolean {
  const local = name.toLowerCase().replace(/^.*:/, '')
  if (prefix === undefined && !/^[\w:.-]+$/.test(name)) return false
  if (local.startsWith('on') || HARMFUL_NAMES.has(local)) return false
  if (READ_NAMES.test(name)) return true
  const address = value.replaceAll(/[\t\n\r]/g, '').replace(/^[\u0000-\u0020]+/, '')
  return !SCHEME.test(address) || HARMLESS_SCHEMES.test(address)
}

const isSheet = (element: Html.Element) =>
  element.tagName === 'link' && /(?:^|\s)stylesheet(?:\s|$)/i.test(attribute(element, 'rel') ?? '')

interface Loading {
  load(address: string, most: number): Promise<{ bytes: Buffer; type: string } | null>
}

/** Fetches within one bound of bytes and time; null for what is not there, or too much. */
function openLoading(allowed: readonly string[]): Loading {
  const end = performance.now() + ALL_MS
  let left = ALL_BYTES
  const known = new Map<string, Promise<{ bytes: Buffer; type: string } | null>>()
  return {
    load(address, most) {
      const before = known.get(address)
      if (before !== undefined) return before
      const ms = end - performance.now()
      if (left <= 0 || ms <= 0) return Promise.resolve(null)
      const asked = guardedRequest(address, {
        allowed,
        limits: { bytes: Math.min(most, left), ms: Math.min(ms, 8_000) },
      })
        .then(({ status, body, headers }) => {
          left -= body.length
          return status >= 400 || left < 0 ? null : { bytes: body, type: headers['content-type']?.[0] ?? '' }
        })
        .catch((error: unknown) => {
          if (error instanceof OutsideProblem) return null
          throw error
        })
      known.set(address, asked)
      return asked
    },
  }
}

async function inTurns(all: readonly (() => Promise<void>)[]): Promise<void> {
  const waiting = [...all]
  const turn = async (): Promise<void> => {
    for (let next = waiting.shift(); next !== undefined; next = waiting.shift()) await next()
  }
  await Promise.all(Array.from({ length: AT_ONCE }, turn))
}

async function putSheet(link: Html.Element, page: string, loading: Loading): Promise<void> {
  const address = resolvedOn(attribute(link, 'href') ?? '', page)?.href
  const sheet = address === undefined ? null : await loading.load(address, SHEET_BYTES)
  if (sheet === null || link.parentNode === null) return
  const css = await withPictures(sheet.bytes.toString('utf8'), address!, loading)
  const style = tree.createElement('style', link.namespaceURI, [...link.attrs.filter(({ name }) => name === 'media')])
  // Nothing in a sheet ends the element that it stands in.
  tree.insertText(style, css.replaceAll(/<\/(?=style)/gi, '<\\/'))
  tree.insertBefore(link.parentNode, style, link)
  detach(link)
}

/** A sheet with the pictures that it names put in; fonts and further sheets are not loaded. */
async function withPictures(css: string, address: string, loading: Loading): Promise<string> {
  const named = new Set<string>()
  const URLS = /url\(\s*(?:"([^"]{1,2000})"|'([^']{1,2000})'|([^\s"')]{1,2000}))\s*\)/gi
  for (const [, double, single, bare] of css.matchAll(URLS)) {
    const url = double ?? single ?? bare ?? ''
    if (named.size < MOST_PICTURES && /\.(?:png|jpe?g|gif|webp|avif|svg)(?:[?#]|$)/i.test(url)) named.add(url)
  }
  const put = new Map<string, string>()
  for (const url of named) {
    const target = resolvedOn(url, address)?.href
    const picture = target === undefined ? null : await loading.load(target, PICTURE_BYTES)
    const data = picture === null ? null : dataOf(picture)
    if (data !== null) put.set(url, data)
  }
  return css.replaceAll(URLS, (whole, double?: string, single?: string, bare?: string) => {
    const data = put.get(double ?? single ?? bare ?? '')
    return data === undefined ? whole : `url("${data}")`
  })
}

async function putPicture(img: Html.Element, page: string, loading: Loading): Promise<void> {
  const lazy = ['data-src', 'data-lazy-src', 'data-original'].map((name) => attribute(img, name)).find(Boolean)
  const src = attribute(img, 'src') ?? ''
  const named = lazy !== undefined && (src === '' || src.startsWith('data:')) ? lazy! : src
  if (named.startsWith('data:')) return
  img.attrs = img.attrs.filter(({ name }) => !['src', 'loading'].includes(name))
  const address = named === '' ? undefined : resolvedOn(named, page)?.href
  const picture = address === undefined ? null : await loading.load(address, PICTURE_BYTES)
  const data = picture === null ? null : dataOf(picture)
  if (data !== null) img.attrs.push({ name: 'src', value: data })
}

function dataOf({ bytes, type }: { bytes: Buffer; type: string }): string | null {
  return PICTURE_TYPES.test(type) ? `data:${type.split(';')[0]!.trim()};base64,${bytes.toString('base64')}` : null
}

function detach(element: Html.Element): void {
  if (element.parentNode !== null) tree.detachNode(element)
}
