export { Browsers, type BrowserReadiness, LIMITS } from './browsers'
export { type BrowserPort, BrowserProcess } from './browser-process'
