import { useDocumentVisibility, useIntervalFn } from '@vueuse/core'
import { computed, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import type { Present } from '#core/api'
import { clientFor } from '../client'
import { newId } from '../clock'
import { useReceiver } from './receiver'

/** Well within the time for which somebody counts as being there. */
const SAY_MS = 8_000
const tab = newId<string>()

/**
 * Who else works on an object now, by the names of their keys. Says that this tab does, while it is seen.
 *
 * @param place such as `form 4kdm…`
 */
export function usePresence(place: MaybeRefOrGetter<string>) {
  const receiver = useReceiver()
  const visibility = useDocumentVisibility()
  const others = shallowRef<Present[]>([])

  async function say(): Promise<void> {
    const here = toValue(place)
    if (visibility.value !== 'visible' || receiver.pairing === null || !receiver.isLinked) return
    const present = await clientFor({ ...receiver.pairing })
      .sayPresent(here, tab)
      .catch(() => null)
    if (here === toValue(place)) others.value = present?.others ?? []
  }
  watch([() => toValue(place), visibility, () => receiver.isLinked], () => void say(), { immediate: true })
  useIntervalFn(() => void say(), SAY_MS)
  return computed(() => [
    ...new Set(
      others.value.map(({ key, name }) => (key === receiver.bearer?.id ? 'this browser, in another tab' : name)),
    ),
  ])
}
