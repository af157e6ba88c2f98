/** What keeps the picture current and reads what is written in it, for trying it on a page of its own. */
export { follow } from '../../src/workshop/parts/follow'
export { readRich } from '../../src/workshop/parts/form/rich-writing'
