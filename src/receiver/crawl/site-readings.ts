import { inTagsCode } from '#core/inlining'
import { spotsOnPage } from '#core/crawl'
import type { ExpectedCode, PageToCheck } from '#core/install'
import type { Reading } from '../reading'
import { linksOn } from './links-on'
import { readSitemap, type Sitemap, SitemapProblem } from './sitemap'
import { stillPage } from './still-page'

export interface JudgedPage {
  spots: ReturnType<typeof spotsOnPage>
  /** Whole addresses that the page leads to. */
  links: string[]
}

/** What of a site is read in the room for reading. */
export const siteReadings = {
  page(page: PageToCheck, expected: readonly ExpectedCode[]): JudgedPage {
    const whole = expected.map((one) => ({ ...one, inTags: inTagsCode }))
    return { spots: spotsOnPage(page, whole), links: linksOn(page) }
  },
  sitemap(bytes: Uint8Array): Sitemap | { said: string } {
    try {
      return readSitemap(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength))
    } catch (error) {
      if (error instanceof SitemapProblem) return { said: error.message }
      throw error
    }
  },
  still: (address: string, allowed: readonly string[]) => stillPage(address, allowed),
}

export type SiteReading = Reading<typeof siteReadings>
