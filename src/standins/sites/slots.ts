import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { mangled } from '#core/install'
import { siteProfiles } from '#core/site'
import { ageOf, type Cached, keepShown, shownNow } from './cache'
import { type PretendSite, sites } from './sites'

/** A place of a site where its owner writes: in the heads, the columns, below every post, or one page's text. */
export type SlotName = 'site-head' | 'side' | 'footer' | 'after-post' | `head:${string}` | `body:${string}`

/** What was typed there: among the words of the visual editor, and into the place for code. */
export interface Typed {
  words: string
  code: string
}

interface Kept extends Cached<Record<string, Typed>> {
  slots: Record<string, Typed>
}

export interface Slots {
  typed(site: PretendSite, slot: SlotName): Typed
  /** What stands on the page for visitors, as HTML. */
  shown(site: PretendSite, slot: SlotName): string
  save(site: PretendSite, slot: SlotName, typed: Typed): void
  cachedUntil(site: PretendSite): number
  /** How long the cache has kept what visitors are shown, in seconds; null where nothing comes from it. */
  age(site: PretendSite): number | null
  clearCache(site: PretendSite): void
}

const NOTHING: Typed = { words: '', code: '' }
/** What the builder with a code element puts into a new one. */
export const SAMPLE_CODE = '<p>Your own code goes here.</p>'

export function slotsOf(site: PretendSite): SlotName[] {
  const { siteHead, pageHead } = siteProfiles[site.kind]
  return [
    ...(siteHead ? ['site-head' as const] : []),
    'side',
    'footer',
    'after-post',
    ...site.pages.flatMap(({ path }) => [...(pageHead ? [`head:${path}` as const] : []), `body:${path}` as const]),
  ]
}

/** What all sites hold, kept in one file so that pasted code is still there after a restart. */
export function openSlots(file: string, now: () => number = Date.now): Slots {
  const stored: Record<string, Kept> = existsSync(file)
    ? (JSON.parse(readFileSync(file, 'utf8')) as Record<string, Kept>)
    : {}
  const of = ({ key }: PretendSite): Kept => (stored[key] ??= { slots: {}, cached: {}, cachedUntil: 0 })
  const write = () => {
    writeFileSync(`${file}.new`, JSON.stringify(stored, null, 1))
    renameSync(`${file}.new`, file)
  }
  return {
    typed: (site, slot) => of(site).slots[slot] ?? startOf(site, slot),
    shown(site, slot) {
      const typed = shownNow(of(site), of(site).slots, now())[slot] ?? startOf(site, slot)
      return outcome(site, slot, typed)
    },
    save(site, slot, typed) {
      const own = of(site)
      keepShown(own, own.slots, siteProfiles[site.kind].cacheMinutes, now())
      own.slots[slot] = typed
      write()
    },
    cachedUntil: (site) => of(site).cachedUntil,
    age: (site) => ageOf(of(site), siteProfiles[site.kind].cacheMinutes, now()),
    clearCache(site) {
      of(site).cachedUntil = 0
      write()
    },
  }
}

/** What stands there before anything was typed. */
function startOf(site: PretendSite, slot: SlotName): Typed {
  if (slot === 'side') return { words: 'Open every clear Friday, from dusk. Bring warm socks.', code: '' }
  if (slot.startsWith('body:')) {
    const page = site.pages.find(({ path }) => slot === `body:${path}`)
    return { words: page?.text ?? '', code: site.kind === 'builder-with-head' ? SAMPLE_CODE : '' }
  }
  return NOTHING
}

/** What becomes of what was typed, by the manner of the site's own editor. */
export function outcome({ kind }: PretendSite, slot: SlotName, { words, code }: Typed): string {
  const isHead = slot === 'site-head' || slot.startsWith('head:')
  switch (kind) {
    case 'self-hosted-blog':
      // The visual editor takes everything for words; its place for HTML leaves everything as it is.
      return isHead ? code : `${mangled(words, 'curly-quotes', 'as-text', 'paragraphs')}\n${code}`
    case 'builder-without-code':
      return mangled(`${paragraphsOf(words)}\n${code}`, 'links-only')
    default:
      return isHead ? code : `${paragraphsOf(words)}\n${code}`
  }
}

function paragraphsOf(words: string): string {
  return words.trim() === '' ? '' : mangled(words, 'as-text', 'paragraphs')
}

export function siteAt(key: string): PretendSite | undefined {
  return sites.find((site) => site.key === key)
}
