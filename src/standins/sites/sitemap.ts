import { LISTING, type PretendSite } from './sites'

/** All pages of a pretend site, as the sitemap protocol (sitemaps.org) has them. */
export function sitemapOf({ path, pages }: PretendSite, origin: string): string {
  const addresses = [...pages.map((page) => `${path}${page.path}`), `${path}${LISTING}`]
  const entries = addresses.map((address) => `  <url><loc>${origin}${address || '/'}</loc></url>`)
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">',
    ...entries,
    '</urlset>',
    '',
  ].join('\n')
}
