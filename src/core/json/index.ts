export { canonicalJson } from './canonical'
export { sameValue } from './same-value'
