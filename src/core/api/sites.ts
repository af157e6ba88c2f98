import { z } from 'zod'
import { addressesIn } from '#core/privacy'
import { crawlStateSchema } from '#core/crawl'
import { siteIdSchema } from '#core/ids'
import { route } from './route'

/** A spot that stands wrong on pages of its site, or is gone from them. */
const siteNeedSchema = z.object({
  site: siteIdSchema,
  spot: z.string(),
  said: addressesIn(z.string()),
  pages: z.array(z.string()),
})
export type SiteNeed = z.infer<typeof siteNeedSchema>

const site = z.object({ id: siteIdSchema })
const unknown = { 404: 'There is no such site, or it has no address.' }

export const sitesRoutes = {
  stillPage: route({
    method: 'post',
    path: '/still',
    needs: 'edit',
    summary:
      'Where a page of a site can be looked at without its scripts, styles and pictures in it; for ten minutes. It is fetched as visitors would, and fetched anew there.',
    body: z.strictObject({ address: z.string().max(2000) }),
    answer: z.object({ path: z.string(), address: z.string() }),
    refusals: { 502: 'The page could not be fetched; `detail` says why.' },
  }),
  readCrawl: route({
    method: 'get',
    path: '/sites/{id}/pages',
    needs: 'see',
    summary: 'What was found when the site was looked through: the newest time, the one before, and how far one is.',
    params: site,
    answer: crawlStateSchema,
    refusals: unknown,
  }),
  beginCrawl: route({
    method: 'post',
    path: '/sites/{id}/pages',
    needs: 'edit',
    summary:
      'Looks through a site: at most 500 pages from its sitemap, else from its links, as its robots.txt allows. One at a time.',
    params: site,
    answer: crawlStateSchema,
    refusals: unknown,
  }),
  stopCrawl: route({
    method: 'post',
    path: '/sites/{id}/pages/stop',
    needs: 'edit',
    summary: 'Stops looking; what was seen is kept.',
    params: site,
    answer: crawlStateSchema,
    refusals: unknown,
  }),
  repeatCrawl: route({
    method: 'put',
    path: '/sites/{id}/pages/repeat',
    needs: 'edit',
    summary: 'Whether the site is looked through every week.',
    params: site,
    body: z.strictObject({ isRepeated: z.boolean() }),
    answer: crawlStateSchema,
    refusals: unknown,
  }),
  crawlNeeds: route({
    method: 'get',
    path: '/sites-needing-hand',
    needs: 'see',
    summary: 'Where spots stood wrong, or no longer, when sites were looked through last.',
    answer: z.object({ needs: z.array(siteNeedSchema) }),
  }),
}
