import { defineStore } from 'pinia'
import { computed, watch } from 'vue'
import { database, type ExchangeState, type Settings, useLive } from '../db'
import { holdExchange } from '../exchange'

/** The receiver this workshop is paired with, and how the exchange with it stands. The same in every tab. */
export const useReceiver = defineStore('receiver', () => {
  const settings = useLive(
    async () => ({ isLoaded: true, ...Object.fromEntries((await database.settings.toArray()).map(({ key, value }) => [key, value])) }),
    { isLoaded: false },
  )
  const value = <Name extends keyof Settings>(name: Name) =>
    computed(() => ((settings.value as Partial<Settings>)[name] as Settings[Name] | undefined) ?? null)

  const isLoaded = computed(() => settings.value.isLoaded)
  const pairing = value('pairing')
  const exchange = value('exchange')
  const publicUrl = value('publicUrl')
  const journal = value('journal')
  const backupAt = value('backupAt')
  const scheme = value('scheme')
  const videoHosts = value('videoHosts')

  const words = computed(() => (pairing.value === null ? 'not paired' : wordsFor(exchange.value)))
  const isLinked = computed(() => exchange.value?.state === 'linked')

  let held: { stop(): void } | null = null
  /** Lets go of the receiver and takes hold again, as after a change that the exchange waits for. */
  function reconnect(): void {
    held?.stop()
    held = pairing.value === null ? null : holdExchange({ ...pairing.value })
  }
  watch(() => JSON.stringify(pairing.value), reconnect)

  return { isLoaded, pairing, exchange, publicUrl, journal, backupAt, scheme, videoHosts, words, isLinked, reconnect }
})

function wordsFor(exchange: ExchangeState | null): string {
  switch (exchange?.state) {
    case undefined:
      return 'connecting'
    case 'linked':
      return 'receiver connected'
    case 'key-refused':
      return 'key refused'
    case 'offline':
      return 'receiver not reached'
    case 'empty-receiver':
      return 'receiver is empty'
    case 'other-journal':
      return 'receiver of another workshop'
  }
}
