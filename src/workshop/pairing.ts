import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import type { PairingOffer } from './sync'

/** What came of a key in the address that this page was opened with. */
export const usePairing = defineStore('pairing', () => {
  const offer = shallowRef<PairingOffer>({ result: 'none' })
  return { offer }
})
