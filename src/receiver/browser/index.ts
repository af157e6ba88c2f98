export { Browsers, type BrowserReadiness, LIMITS } from './browsers'
export { SharedBrowsers } from './shared-browsers'
export { type BrowserPort, BrowserProcess } from './browser-process'
