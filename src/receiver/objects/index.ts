export { type Objects, openObjects } from './objects'
export { type Published, PublishedIndex } from './published'
export { takeChange } from './take-change'
