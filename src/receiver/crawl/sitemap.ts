import { gunzipSync } from 'node:zlib'
import sax from 'sax'

/** Limits of the sitemap protocol (sitemaps.org): 50,000 addresses and 50 MB unpacked, the same of sitemaps in an index. */
export const MOST_ENTRIES = 50_000
export const MOST_BYTES = 50 * 1024 * 1024
/** `urlset > url > loc` and what extensions put within `url`. */
const MOST_DEPTH = 12
const LONGEST_ADDRESS = 2_048
const CHUNK_BYTES = 64 * 1024

export interface Sitemap {
  kind: 'pages' | 'index'
  entries: { address: string; changedAt: string | null }[]
}

/** A sitemap that says what it should not, or is larger than one may be; the message is for its owner. */
export class SitemapProblem extends Error {}

/**
 * Reads a sitemap or an index of sitemaps, as XML, packed or not, or as text with an address a line.
 *
 * @throws SitemapProblem
 */
export function readSitemap(packed: Buffer): Sitemap {
  const bytes = unpacked(packed)
  const start = bytes.subarray(0, 1_000).toString('latin1').trimStart()
  return start.startsWith('<') || start.startsWith('\u00ef\u00bb\u00bf<') ? readXml(bytes) : readText(bytes)
}

function unpacked(bytes: Buffer): Buffer {
  if (bytes[0] !== 0x1f || bytes[1] !== 0x8b) return bytes
  try {
    return gunzipSync(bytes, { maxOutputLength: MOST_BYTES })
  } catch (error) {
    throw new SitemapProblem(
      (error as NodeJS.ErrnoException).code === 'ERR_BUFFER_TOO_LARGE'
        ? 'The sitemap is larger than 50 MB, unpacked: none may be.'
        : 'The sitemap is packed in a way that cannot be read.',
    )
  }
}

function readXml(bytes: Buffer): Sitemap {
  const parser = sax.parser(true, { trim: true, xmlns: false, position: false })
  const sitemap: Sitemap = { kind: 'pages', entries: [] }
  const path: string[] = []
  let [address, changedAt, text] = ['', '', '']
  let problem: SitemapProblem | null = null
  const refuse = (words: string) => (problem ??= new SitemapProblem(words))
  parser.ondoctype = () => refuse('The sitemap brings definitions of its own (DOCTYPE): none needs any.')
  parser.onerror = (error) => {
    refuse(`The sitemap is no sound XML: ${error.message.split('\n')[0]!.slice(0, 100)}.`)
    parser.resume()
  }
  parser.onopentag = ({ name }) => {
    const local = name.slice(name.indexOf(':') + 1)
    if (path.length === 0 && local !== 'urlset' && local !== 'sitemapindex')
      refuse(`This is no sitemap: it begins with <${local.slice(0, 40)}>.`)
    if (path.length === 0 && local === 'sitemapindex') sitemap.kind = 'index'
    path.push(local)
    text = ''
    if (path.length > MOST_DEPTH) refuse('The sitemap is nested deeper than one may be.')
  }
  const take = (part: string) => {
    text = (text + part).slice(0, LONGEST_ADDRESS)
  }
  parser.ontext = take
  parser.oncdata = take
  parser.onclosetag = () => {
    const local = path.pop()
    if (path.length === 2 && local === 'loc') address = text
    if (path.length === 2 && local === 'lastmod') changedAt = text
    if (path.length === 1 && (local === 'url' || local === 'sitemap')) {
      if (address !== '') sitemap.entries.push({ address, changedAt: changedAt || null })
      ;[address, changedAt] = ['', '']
    }
    text = ''
  }
  const decoder = new TextDecoder()
  for (let at = 0; at < bytes.length; at += CHUNK_BYTES) {
    parser.write(decoder.decode(bytes.subarray(at, at + CHUNK_BYTES), { stream: true }))
    if (problem !== null) throw problem as SitemapProblem
    // Further ones are not looked at: no sitemap may have more.
    if (sitemap.entries.length >= MOST_ENTRIES) break
  }
  return { ...sitemap, entries: sitemap.entries.slice(0, MOST_ENTRIES) }
}

function readText(bytes: Buffer): Sitemap {
  const lines = new TextDecoder().decode(bytes.subarray(0, MOST_BYTES)).split(/\r?\n/, MOST_ENTRIES)
  const entries = lines
    .map((line) => line.trim())
    .filter((line) => /^https?:\/\//i.test(line) && line.length <= LONGEST_ADDRESS)
    .map((address) => ({ address, changedAt: null }))
  if (entries.length === 0) throw new SitemapProblem('There is no sitemap at this address: what is there is none.')
  return { kind: 'pages', entries }
}
