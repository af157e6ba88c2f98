export { newestCrawl } from './kept'
