import { defineStore } from 'pinia'
import { computed } from 'vue'
import { keyOf, type Preferences } from '#core/sync'
import { database } from './database'
import { useLive } from './live'

const NONE: Preferences = { videoHosts: [] }
const KEY = keyOf('preferences', NONE)

/** What the owner chose for the workshop as a whole. */
export const usePreferences = defineStore('preferences', () => {
  const loaded = useLive(async () => (await database.preferences.get(KEY)) ?? NONE, null as Preferences | null)
  return {
    /** Null until it is known. */
    preferences: computed(() => loaded.value),
    change: (changes: Partial<Preferences>) =>
      database.transaction('rw', database.preferences, async () => {
        const before = (await database.preferences.get(KEY)) ?? NONE
        // A choice that is left out is the usual one.
        const after = Object.entries({ ...before, ...changes }).filter(([, value]) => value !== undefined)
        await database.preferences.put(Object.fromEntries(after) as Preferences, KEY)
      }),
  }
})
