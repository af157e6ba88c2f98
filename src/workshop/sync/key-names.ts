import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import { clientFor } from '../client'
import { useReceiver } from './receiver'

/** Names of the keys that changes were made with, asked for when the first is to be shown. */
export const useKeyNames = defineStore('key-names', () => {
  const receiver = useReceiver()
  const names = shallowRef<ReadonlyMap<string, string>>(new Map())
  let isAsking = false

  async function ask(): Promise<void> {
    if (isAsking || receiver.pairing === null) return
    isAsking = true
    try {
      const { keys } = await clientFor({ ...receiver.pairing }).keys()
      names.value = new Map(keys.map(({ id, name }) => [id, name]))
    } catch {
      // Shown without a name until it is asked again.
      isAsking = false
    }
  }

  /** Null where it was this browser's own key, or where nobody knows. */
  function nameOf(key: string | undefined): string | null {
    if (key === undefined || key === receiver.bearer?.id) return null
    if (key === 'computer') return 'the computer’s own key'
    if (!names.value.has(key)) void ask()
    return names.value.get(key) ?? null
  }
  return { nameOf }
})
