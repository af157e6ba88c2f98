/*
 * What stands in a site's feed is read here, by a parser of the HTML standard. It is large, and only the receiver needs it.
 */
export { blocksOfHtml, summaryOf } from './post-text'
