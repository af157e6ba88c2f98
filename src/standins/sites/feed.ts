import type { PretendSite } from './sites'

const DAY_MS = 86_400_000

/** A post that somebody wrote since the start. */
export interface WrittenPost {
  title: string
  text: string
  /** Milliseconds since 1970. */
  at: number
}

/** The feed of a pretend blog, as such programs write it (RSS 2.0). */
export function feedOf(site: PretendSite, written: readonly WrittenPost[], origin: string, startedAt: number): string {
  const base = `${origin}${site.path}`
  const old = site.pages
    .filter(({ date }) => date !== undefined)
    .map(({ title, text, path }, at) => ({
      ...{ title, text, link: `${base}${path}` },
      at: startedAt - (3 + at * 13) * DAY_MS,
    }))
  const fresh = written.map((post, at) => ({ ...post, link: `${base}/posts?p=${at + 1}` }))
  const items = [...fresh.toReversed(), ...old].map(
    ({ title, text, link, at }) => `    <item>
      <title>${escaped(title)}</title>
      <link>${escaped(link)}</link>
      <guid isPermaLink="true">${escaped(link)}</guid>
      <pubDate>${new Date(at).toUTCString()}</pubDate>
      <description>${escaped(paragraphs(text)[0] ?? '')}</description>
      <content:encoded>${escaped(
        paragraphs(text)
          .map((words) => `<p>${escaped(words)}</p>`)
          .join('\n'),
      )}</content:encoded>
    </item>`,
  )
  return `<?xml version="1.0" encoding="UTF-8"?>
<rss version="2.0" xmlns:content="http://purl.org/rss/1.0/modules/content/">
  <channel>
    <title>${escaped(site.name)}</title>
    <link>${escaped(`${base}/`)}</link>
    <description>${escaped(site.pages[0]!.text)}</description>
${items.join('\n')}
  </channel>
</rss>
`
}

const paragraphs = (text: string) => text.split(/\n{2,}/)

function escaped(text: string): string {
  return text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;')
}
