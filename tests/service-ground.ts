/** The stand-in list services, for tests of who hands people over to them. */
export { HOOK_SECRET, serviceApp } from '../src/standins/service/app'
export { Holdings, type Service, type Trouble, troubles } from '../src/standins/service/holdings'
export { type DocumentedService, documentedServices } from '../src/standins/service/documented'
