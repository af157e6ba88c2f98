/** One kind of visitor: the screen, and what the browser was told of its owner's wishes. */
export interface Viewer {
  id: string
  /** As in “Tried by …”. */
  name: string
  /** CSS pixels. */
  width: number
  height: number
  isTouch: boolean
  hasScripts: boolean
  colours: 'light' | 'dark'
  motion: 'no-preference' | 'reduce'
  /** BCP 47. */
  language: string
}

const common = {
  isTouch: false,
  hasScripts: true,
  colours: 'light',
  motion: 'no-preference',
  language: 'en-US',
} as const

/** Sizes that are common in use: common practice, no published source. */
export const viewers = [
  { ...common, id: 'desk', name: 'a desk', width: 1280, height: 800 },
  { ...common, id: 'phone', name: 'a phone', width: 360, height: 780, isTouch: true },
  { ...common, id: 'tablet', name: 'a tablet', width: 820, height: 1180, isTouch: true },
  { ...common, id: 'wide', name: 'a wide screen', width: 1920, height: 1080 },
  { ...common, id: 'dark', name: 'dark colours', width: 1280, height: 800, colours: 'dark' },
  { ...common, id: 'language', name: 'another language', width: 1280, height: 800, language: 'fr-FR' },
  { ...common, id: 'calm', name: 'less motion', width: 1280, height: 800, motion: 'reduce' },
  // A window of 1280 by 800 at 200 %: WCAG 2.2, 1.4.4.
  { ...common, id: 'zoomed', name: 'a zoom of 200 %', width: 640, height: 400 },
  { ...common, id: 'firefox', name: 'Firefox', width: 1280, height: 800 },
  { ...common, id: 'no-scripts', name: 'scripts off', width: 1280, height: 800, hasScripts: false },
] as const satisfies readonly Viewer[]

export type ViewerId = (typeof viewers)[number]['id']
export const viewerIds = viewers.map(({ id }) => id) as [ViewerId, ...ViewerId[]]

export function viewerOf(id: ViewerId): Viewer {
  return viewers.find((one) => one.id === id)!
}
