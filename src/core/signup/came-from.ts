import type { CameFrom } from '#core/journal'

/** Parts of an address that say which campaign led to it: `utm_source` and so on. Common practice, without a source. */
const CAMPAIGN_PARTS = ['source', 'medium', 'campaign', 'term', 'content']
const LONGEST_PART = 200
const LONGEST_SOURCE = 60

/**
 * Where a visitor came from, by the address of the page with the form and that of the page before. The visitors' script,
 * our own pages and plain posts all ask here, so that a view and its sign-up have the same source. Empty texts for what
 * neither address says.
 *
 * @param referrer kept where it is of another site; without its query, which may name a person
 */
export function cameFrom(page: string, referrer: string): Record<keyof CameFrom, string> {
  const query = new URLSearchParams(/\?([^#]*)/.exec(page)?.[1])
  const part = (name: string) => query.get(name) ?? ''
  const campaign = CAMPAIGN_PARTS.map((name) => part(`utm_${name}`)).filter(Boolean)
  const isOfAnotherSite = !['', hostOf(page)].includes(hostOf(referrer))
  return {
    source: part('source').slice(0, LONGEST_PART),
    campaign: campaign.join(', ').slice(0, LONGEST_PART),
    referrer: isOfAnotherSite ? referrer.replace(/[?#].*/s, '').slice(0, LONGEST_PART) : '',
  }
}

/** In few words, for sums: what the owner marked goes before what campaigns say, and that before the page. */
export function sourceOf({ source = '', campaign = '', referrer = '' }: CameFrom): string {
  return (source || campaign || hostOf(referrer)).slice(0, LONGEST_SOURCE)
}

/** Read without `URL`, because a fold asks it of each sign-up of a journal. */
function hostOf(address: string): string {
  const host = /^https?:\/\/(?:[^/?#@]*@)?([^/?#:]+)/i.exec(address)?.[1] ?? ''
  return host.toLowerCase().replace(/^www\./, '')
}
