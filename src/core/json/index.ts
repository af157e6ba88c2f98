export { canonicalJson } from './canonical'
export { parsedJson } from './parse'
export { sameValue } from './same-value'
