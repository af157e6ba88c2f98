export { useOnward } from './onward'
export { useOutside } from './outside'
export { lostWords, reasonFor, troubleOf, unfilledWords, wayWords } from './words'
export { newWebhookSecret } from './webhook-secret'
