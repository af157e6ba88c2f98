export {
  allBlocks,
  type BlockInColumn,
  blockKinds,
  type Letter,
  type LetterBlock,
  type LetterBlockKind,
  letterBodySchema,
  type LetterBody,
  type LetterContent,
  letterContentSchema,
  type LetterReaders,
  letterSchema,
  picturesOf,
} from './letter'
export { type LetterLink, linksOfLetter } from './links'
export { type LetterFacts, type RenderedLetter, renderLetter } from './render'
export { type LetterFinding, letterFindings } from './check'
export { blockName, blockNames, wordsNames, type LetterStart, letterStarts, newBlock, startLetter } from './start'
export { type LetterTime, letterTimeSchema, momentFor } from './when'
export {
  inOrder,
  nextStep,
  type Series,
  type SeriesContent,
  type SeriesPlace,
  seriesProblem,
  seriesSchema,
  type SeriesStep,
} from './series'
export {
  type Feed,
  type FeedContent,
  feedContentSchema,
  feedProblem,
  feedSchema,
  letterOfPosts,
  MOST_LOGO,
  namesOf,
  newPosts,
  nextRound,
  type Post,
} from './post'
export {
  type CopyState,
  copyStates,
  isRefusedTooOften,
  MOST_REFUSED,
  noCopies,
  REFUSED_AMONG,
  type Sending,
  type SendingCounts,
  sendingSchema,
  type SendingSource,
  sendingSourceSchema,
  type SendingState,
  sendingStates,
  titleOf,
} from './sending'
