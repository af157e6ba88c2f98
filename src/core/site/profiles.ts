import type { SiteKind } from './site'

/** What a site's builder permits of code that is pasted into it. Common practice among builders, no published source. */
export interface SiteProfile {
  /** Whether forms, styles and frames survive pasting into a page. */
  keepsForms: boolean
  keepsStyles: boolean
  keepsFrames: boolean
  /** Whether scripts run where they are pasted into a page; whether the whole site has a head to put code into. */
  runsScripts: boolean
  hasSiteHead: boolean
  /** What its own editor shows in the place of pasted code. */
  editorShows: 'the form' | 'the code' | 'a notice'
  /** How long its cache may show the page as it was, in minutes; 0 without one. */
  cacheMinutes: number
}

export const siteProfiles: Record<SiteKind, SiteProfile> = {
  'self-hosted-blog': {
    keepsForms: true,
    keepsStyles: true,
    keepsFrames: true,
    runsScripts: true,
    hasSiteHead: true,
    editorShows: 'the code',
    cacheMinutes: 0,
  },
  'block-editor-blog': {
    keepsForms: true,
    keepsStyles: true,
    keepsFrames: true,
    runsScripts: true,
    hasSiteHead: true,
    editorShows: 'the code',
    cacheMinutes: 0,
  },
  'builder-with-head': {
    keepsForms: true,
    keepsStyles: true,
    keepsFrames: true,
    runsScripts: true,
    hasSiteHead: true,
    editorShows: 'a notice',
    cacheMinutes: 10,
  },
  'builder-without-code': {
    keepsForms: false,
    keepsStyles: false,
    keepsFrames: false,
    runsScripts: false,
    hasSiteHead: false,
    editorShows: 'the code',
    cacheMinutes: 10,
  },
  'static-pages': {
    keepsForms: true,
    keepsStyles: true,
    keepsFrames: true,
    runsScripts: true,
    hasSiteHead: true,
    editorShows: 'the code',
    cacheMinutes: 0,
  },
  other: {
    keepsForms: true,
    keepsStyles: true,
    keepsFrames: true,
    runsScripts: false,
    hasSiteHead: false,
    editorShows: 'the code',
    cacheMinutes: 0,
  },
}
