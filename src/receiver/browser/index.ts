export { Browsers, type BrowserState } from './browsers'
export { type BrowserPort, BrowserProcess } from './browser-process'
