export {
  type CrawlChange,
  crawlChanges,
  isSound,
  pageGroups,
  pagesToRehearse,
  type SpotInGroup,
  spotInGroups,
  spread,
} from './groups'
export { spotsOnPage } from './judge'
export {
  type CrawlReport,
  crawlReportSchema,
  type CrawlState,
  crawlStateSchema,
  type LookedPage,
  type SpotOnPage,
} from './report'
export { groupWords, spotOnPageWords, spotSentence } from './words'
