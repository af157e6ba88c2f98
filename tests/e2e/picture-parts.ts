/** What keeps the picture current and reads what is written in it, for trying it on a page of its own. */
export { morph } from '../../src/workshop/preview/morph'
export { readRich } from '../../src/workshop/form/content/rich-writing'
