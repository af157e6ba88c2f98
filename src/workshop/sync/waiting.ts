import Dexie, { type ObservabilitySet } from 'dexie'
import { defineStore } from 'pinia'
import { computed, onScopeDispose, shallowRef } from 'vue'
import type { Kind } from '#core/sync'
import {
  database,
  objectTableNames,
  queuedCommands,
  type Synced,
  syncedId,
  touches,
  useLive,
  waitingChanges,
} from '../data'
import { whenRested } from '../rest'

const TABLES = [...objectTableNames, 'synced', 'commands']
const REST_MS = 250

/** What was done here and is not at the receiver yet, and what contradicts what another browser did. */
export const useWaiting = defineStore('waiting', () => {
  const ids = shallowRef(new Set<string>())
  const count = shallowRef(0)
  const look = whenRested(
    async () => {
      const [changes, commands] = await Promise.all([waitingChanges(), queuedCommands()])
      ids.value = new Set(changes.map(({ kind, key }) => syncedId(kind, key)))
      count.value = changes.length + commands.length
    },
    REST_MS,
    4 * REST_MS,
  )
  const onChange = (parts: ObservabilitySet) => {
    if (touches(parts, TABLES)) look()
  }
  Dexie.on('storagemutated', onChange)
  onScopeDispose(() => Dexie.on.storagemutated.unsubscribe(onChange))
  look()

  const conflicts = useLive(() => database.synced.where('isConflict').equals(1).toArray(), [] as Synced[])
  const refused = useLive(
    () => database.synced.filter(({ refusal }) => refusal !== undefined).toArray(),
    [] as Synced[],
  )

  return {
    /** Changes and commands on their way. */
    count: computed(() => count.value),
    /** Whether the receiver does not know yet what an object has become here. */
    isWaiting: (kind: Kind, key: string) => ids.value.has(syncedId(kind, key)),
    conflicts,
    refused,
  }
})
