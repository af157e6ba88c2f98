export { Browsers, type BrowserState, LIMITS } from './browsers'
export { type BrowserPort, BrowserProcess } from './browser-process'
