export { Counting, deviceOfBrowser, isCounted } from './counting'
export { type CountedView, countSignUp, openResults, type Results } from './results'
export * from './view-notes'
