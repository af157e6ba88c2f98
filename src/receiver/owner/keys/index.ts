export { keysApiRoutes, pairingAddress, pairRoute } from './handlers'
