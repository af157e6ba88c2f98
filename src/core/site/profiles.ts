import type { SiteKind } from './site'

/** What a site's builder permits of code that is pasted into it. Common practice among builders, no published source. */
export interface SiteProfile {
  /** Whether forms, styles and frames survive pasting into a page. */
  keepsForms: boolean
  keepsStyles: boolean
  keepsFrames: boolean
  /** How long its cache may show the page as it was, in minutes; 0 without one. */
  cacheMinutes: number
}

const keepsAll: SiteProfile = { keepsForms: true, keepsStyles: true, keepsFrames: true, cacheMinutes: 0 }

export const siteProfiles: Record<SiteKind, SiteProfile> = {
  'self-hosted-blog': keepsAll,
  'block-editor-blog': keepsAll,
  'builder-with-head': { ...keepsAll, cacheMinutes: 10 },
  'builder-without-code': { keepsForms: false, keepsStyles: false, keepsFrames: false, cacheMinutes: 10 },
  'static-pages': keepsAll,
  other: keepsAll,
}
