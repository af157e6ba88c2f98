import { ref, shallowRef } from 'vue'
import { addressProblem, guessedKind, siteHost, type SiteKind } from '#core/site'
import type { FoundColour } from '#core/css'
import type { Palette } from '#core/look'
import { useReceiver } from '../sync'
import { paletteBeside } from './palette'

/** How many style sheets of one page are fetched; the first ones say most. */
const MOST_SHEETS = 6

/** What was read from a site: its colours and type, and from how much. */
export interface SiteReading {
  address: string
  /** Host of the page, as its owner knows it. */
  host: string
  palette: Palette
  /** Its colours, those used most first. */
  found: FoundColour[]
  sheets: number
}

/** Reads a site's colours and type from its page and style sheets, fetched by the receiver. The last wish counts. */
export function useSiteReading() {
  const receiver = useReceiver()
  const isReading = ref(false)
  const reading = shallowRef<SiteReading | null>(null)
  const problem = ref<string | null>(null)
  /** What the site is built with, where its page says so, whether it has colours or not. */
  const kind = ref<SiteKind | null>(null)
  let wish = 0

  async function read(address: string): Promise<SiteReading | null> {
    const mine = ++wish
    reading.value = null
    problem.value = null
    kind.value = null
    isReading.value = false
    if (addressProblem(address) !== null) return null
    isReading.value = true
    try {
      const page = await receiver.fetchPage(address.trim())
      if (page.status >= 400) throw new Error(`The site answered ${page.status}.`)
      if (mine === wish) kind.value = guessedKind(page.html, page.address)
      const palette = await readSite(page, receiver.fetchPage)
      if (mine === wish) reading.value = palette
      return mine === wish ? palette : null
    } catch (error) {
      if (mine === wish) problem.value = error instanceof Error ? error.message : String(error)
      return null
    } finally {
      if (mine === wish) isReading.value = false
    }
  }
  return { isReading, reading, problem, kind, read }
}

interface Page {
  status: number
  html: string
  address: string
}
type Fetch = (address: string) => Promise<Page>

/** @throws Error in words for the owner */
async function readSite(page: Page, fetchPage: Fetch): Promise<SiteReading> {
  const links = [
    ...new DOMParser().parseFromString(page.html, 'text/html').querySelectorAll('link[rel~="stylesheet" i]'),
  ]
    .map((link) => link.getAttribute('href') ?? '')
    .filter((href) => URL.canParse(href, page.address))
    .slice(0, MOST_SHEETS)
  const sheets = await Promise.all(
    links.map((href) =>
      fetchPage(new URL(href, page.address).href)
        .then(({ status, html }) => (status < 400 ? html : ''))
        .catch(() => ''),
    ),
  )
  // The page itself comes last: what it says of itself outweighs its style sheets.
  const source = [...sheets.map((sheet) => `<style>${sheet}</style>`), page.html].join('\n')
  const result = await paletteBeside(source)
  if (!result.ok) throw new Error('No colour was found in it.')
  return {
    address: page.address,
    host: siteHost(page.address),
    palette: result.palette,
    found: result.found,
    sheets: sheets.filter((sheet) => sheet !== '').length,
  }
}
