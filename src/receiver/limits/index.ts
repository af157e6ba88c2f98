export { calm, type Cause, Causes } from './causes'
export { addressLimiter, type Limiter } from './limiter'
export { networksOf } from './network'
