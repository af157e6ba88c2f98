export { Browsers, type BrowserState } from './browsers'
