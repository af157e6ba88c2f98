export { canonicalJson } from './canonical'
export { parsedJson } from './parse'
export { pointerStep } from './pointer'
export { sameValue } from './same-value'
