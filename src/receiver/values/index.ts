export type { ValueQueries } from './tables'
export { openValues, type Values } from './values'
