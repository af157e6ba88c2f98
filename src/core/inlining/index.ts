export { inTagsCode } from './in-tags'
