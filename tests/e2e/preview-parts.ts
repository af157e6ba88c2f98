/** What keeps the preview current and what is written with in it, for trying them on a page of their own. */
export { morph } from '../../src/workshop/preview/morph'
export { openEditor } from '../../src/workshop/writing'
