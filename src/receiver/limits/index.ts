export { calm, type Cause, Causes } from './causes'
export { addressLimiter, type Limiter } from './limiter'
export { RefusedNetworks } from './refused-networks'
export { networksOf } from './network'
