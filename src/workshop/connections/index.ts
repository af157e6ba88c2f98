export { useOnward } from './onward'
export { useOutside } from './outside'
export { lostWords, reasonFor, troubleOf, unfilledWords } from './words'
export { newWebhookSecret } from './webhook-secret'
