import { useDocumentVisibility, useIntervalFn, useSessionStorage } from '@vueuse/core'
import { computed, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import type { Present } from '#core/api'
import { clientFor } from '../client'
import { newId } from '../clock'
import { useReceiver } from './receiver'

/** Well within the time for which somebody counts as being there. */
const SAY_MS = 8_000
/** Kept by the tab, so that it is the same one after a reload. A tab that is duplicated takes it along: the two are one. */
const tab = useSessionStorage('askbox-tab', newId<string>())

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
      .sayPresent(here, tab.value)
      .catch(() => null)
    if (here === toValue(place)) others.value = present?.others ?? []
  }
  watch([() => toValue(place), visibility, () => receiver.isLinked], () => void say(), { immediate: true })
  useIntervalFn(() => void say(), SAY_MS)
  return computed(() => {
    const isOwn = ({ key }: Present) => key === receiver.bearer?.id
    const names = new Set(others.value.filter((one) => !isOwn(one)).map(({ name }) => name))
    if (!others.value.some(isOwn)) return [...names]
    return [...names, names.size === 0 ? 'Another tab of this browser' : 'another tab of this browser']
  })
}
