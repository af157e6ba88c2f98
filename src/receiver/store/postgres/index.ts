export { type PostgresAddress, readPostgresAddress } from './address'
export { openPostgresEngine } from './engine'
export { ServerUnusable } from './server'
