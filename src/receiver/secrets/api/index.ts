export { bearerIn, keysApiRoutes, pairingAddress, pairRoute } from './handlers'
