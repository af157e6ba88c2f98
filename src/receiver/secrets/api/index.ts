export { keyIn, keyReader, keysApiRoutes, pairingAddress, pairRoute } from './handlers'
