import { type CrawlReport, crawlReportSchema } from '#core/crawl'
import type { Values } from '../values'

/** What is kept of a site that was looked through. */
export interface Kept {
  newest: CrawlReport | null
  before: CrawlReport | null
  said: string
}

export const reportName = (site: string) => `pages of ${site}`

export async function keptCrawls(values: Values, site: string): Promise<Kept> {
  const kept = (await values.value(reportName(site))) as Kept | null
  // What an older program kept may be of another shape.
  const read = (report: unknown) =>
    crawlReportSchema
      .nullable()
      .catch(null)
      .parse(report ?? null)
  return { newest: read(kept?.newest), before: read(kept?.before), said: kept?.said ?? '' }
}

/** The newest look through a site; null for none. */
export const newestCrawl = async (values: Values, site: string): Promise<CrawlReport | null> =>
  (await keptCrawls(values, site)).newest
