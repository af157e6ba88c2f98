export { keyOf, keysApiRoutes, pairingAddress, pairRoute } from './handlers'
