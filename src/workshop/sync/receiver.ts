import { defineStore } from 'pinia'
import { computed, watch } from 'vue'
import { database, isDemo, type LocalSettings, syncedId, type SyncState, useLive, lookOn } from '../data'
import type { Version } from '#core/form'
import type { Kind } from '#core/sync'
import { now } from '../clock'
import { type Publishing, publishTogether } from './publishing'
import { clientFor } from '../client'
import { holdSync, sendNow } from './sync'

/** The receiver this workshop is paired with, and how far both are in step. The same in every tab. */
export const useReceiver = defineStore('receiver', () => {
  const settings = useLive(
    async () => ({
      isLoaded: true,
      ...Object.fromEntries((await database.settings.toArray()).map(({ key, value }) => [key, value])),
    }),
    { isLoaded: false },
  )
  const value = <Name extends keyof LocalSettings>(name: Name) =>
    computed(() => ((settings.value as Partial<LocalSettings>)[name] as LocalSettings[Name] | undefined) ?? null)

  const isLoaded = computed(() => settings.value.isLoaded)
  const pairing = value('pairing')
  const sync = value('sync')
  const bearer = value('bearer')
  /** Whether this browser's key changes nothing. */
  const looksOn = computed(() => bearer.value?.right === 'reader')
  watch(looksOn, (is) => lookOn(is), { immediate: true })
  const publicUrl = value('publicUrl')
  const journal = value('journal')
  const backupAt = value('backupAt')
  const scheme = value('scheme')
  const opening = value('opening')

  const words = computed(() =>
    isDemo ? 'demo: nothing is sent' : pairing.value === null ? 'not connected' : wordsFor(sync.value),
  )
  const isLinked = computed(() => sync.value?.state === 'linked')

  let held: { stop(): void } | null = null
  /** Lets go of the receiver and takes hold again, as after a change that being in step waits for. */
  function reconnect(): void {
    held?.stop()
    held = pairing.value === null ? null : holdSync({ ...pairing.value })
  }
  watch(() => JSON.stringify(pairing.value), reconnect)

  /** Publishes drafts, all or none. Needs the receiver: only what it has can be pasted and is sent. */
  async function publish(objects: readonly Publishing[]): Promise<Version[]> {
    if (isDemo) throw new Error('the demo sends nothing')
    if (pairing.value === null) throw new Error('The workshop is not paired with a receiver.')
    return publishTogether(clientFor({ ...pairing.value }), objects, now())
  }

  /** Tells the receiver at once what was changed here. False when it cannot be told now; it then is as soon as it can be. */
  async function tell(kind: Kind, key: string): Promise<boolean> {
    return pairing.value !== null && sendNow({ ...pairing.value }, [syncedId(kind, key)])
  }

  /** Fetches a page of a site through the receiver, which stands where visitors' browsers do. */
  function fetchPage(address: string) {
    if (pairing.value === null) throw new Error('The workshop is not paired with a receiver.')
    return clientFor({ ...pairing.value }).fetchPage(address)
  }

  return {
    publish,
    fetchPage,
    tell,
    isLoaded,
    pairing,
    sync,
    bearer,
    looksOn,
    publicUrl,
    journal,
    backupAt,
    scheme,
    opening,
    words,
    isLinked,
    reconnect,
  }
})

function wordsFor(sync: SyncState | null): string {
  switch (sync?.state) {
    case undefined:
      return 'connecting'
    case 'linked':
      return 'all saved'
    case 'key-refused':
      return 'key refused'
    case 'key-withdrawn':
      return 'key withdrawn'
    case 'offline':
      return 'not reached'
    case 'empty-receiver':
      return 'new receiver, empty'
    case 'other-journal':
      return 'another workshop’s receiver'
    case 'older-receiver':
      return 'put back to an older copy'
    case 'reload-needed':
      return 'reload this page'
  }
}
