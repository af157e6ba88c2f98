export { Counting, deviceOfBrowser, isCounted } from './counting'
