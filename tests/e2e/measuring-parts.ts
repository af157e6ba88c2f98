/** What reads renderings, for tests in a page of their own. */
export { laidOn, seenColour } from '../../src/workshop/measuring/colours'
export { textsIn } from '../../src/workshop/measuring/texts'
export { mix, worstContrast } from '../../src/core/look'
