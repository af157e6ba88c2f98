import { useIntervalFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { watch } from 'vue'
import type { ListId } from '#core/ids'
import type { Delivery } from '#core/mail'
import { clientFor } from '../client'
import { readSetting, useLive, writeSetting } from '../data'
import { useReceiver } from '../sync'

const LOOK_MS = 30_000

/** Whether lists' mail is known to arrive, as the receiver told last: kept, so that a signal is the same at each opening. */
export const useDelivery = defineStore('delivery', () => {
  const receiver = useReceiver()
  const deliveries = useLive(async () => (await readSetting('delivery')) ?? {}, {} as Record<string, Delivery>)

  async function look(): Promise<void> {
    if (receiver.pairing === null) return
    const told = await clientFor({ ...receiver.pairing })
      .mailState()
      .catch(() => null)
    if (told !== null && JSON.stringify(told.delivery) !== JSON.stringify((await readSetting('delivery')) ?? {}))
      await writeSetting('delivery', told.delivery)
  }
  watch(() => JSON.stringify(receiver.pairing), look, { immediate: true })
  useIntervalFn(() => void look(), LOOK_MS)

  return { of: (list: ListId): Delivery | null => deliveries.value[list] ?? null, look }
})
