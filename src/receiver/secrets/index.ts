export { OtherSecret, sealsAlike } from './alike'
export { keptOwnerKey, OWNER_KEY, WrongOwnerKey } from './owner-key'
export { OwnerKeys } from './owner-keys'
export { keptSecret, openWithPassphrase, type Sealing, sealingWith, sealWithPassphrase } from './sealing'
