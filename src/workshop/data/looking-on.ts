import type { DBCore, DBCoreMutateRequest, Middleware } from 'dexie'
import { kindOf, kinds } from '#core/sync'

/** A change by somebody whose key looks on. */
export class LooksOn extends Error {
  constructor() {
    super('this browser’s key looks on, and changes nothing')
    this.name = 'LooksOn'
  }
}

let isLooking = false

/** Says whether this browser's key changes nothing. */
export function lookOn(is: boolean): void {
  isLooking = is
}

/** @throws LooksOn where this browser's key changes nothing */
export function mustNotLookOn(): void {
  if (isLooking) throw new LooksOn()
}

const owned = new Set<string>([...kinds.map((kind) => kindOf(kind).table), 'commands'])

/**
 * The one door that all writes pass: where the key looks on, what the owner makes changes only by what comes from the
 * receiver. That is written in transactions over `synced`, and emptying in ones over everything.
 */
export const lookingOn: Middleware<DBCore> = {
  stack: 'dbcore',
  name: 'looking on',
  create: (core) => ({
    ...core,
    table(name) {
      const table = core.table(name)
      if (!owned.has(name)) return table
      return {
        ...table,
        mutate(request: DBCoreMutateRequest) {
          const tables = (request.trans as unknown as IDBTransaction).objectStoreNames
          if (!isLooking || tables.contains('synced')) return table.mutate(request)
          return Promise.reject(new LooksOn())
        },
      }
    },
  }),
}
