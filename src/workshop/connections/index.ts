export { useOnward } from './onward'
export { useOutside } from './outside'
export { lostWords, reasonFor, troubleOf, unfilledWords, wayNames } from './words'
export { newWebhookSecret } from './webhook-secret'
