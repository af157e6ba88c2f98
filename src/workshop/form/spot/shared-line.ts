import { shallowRef, watchEffect } from 'vue'
import { sharedLine } from '#core/embed'
import { addressProblem, type Site } from '#core/site'
import type { Spot } from '#core/spot'
import { useReceiver } from '../../sync'

/** Whether the line that all scripts of a site share stands on it: looked at now, or not known. */
export type LineThere = 'looking' | 'there' | 'missing' | 'unknown'

/** Looks at the site, through the receiver, for the shared line: who has it already is not asked for it again. */
export function useLineThere(spot: () => Spot, site: () => Site) {
  const receiver = useReceiver()
  const state = shallowRef<LineThere>('looking')
  async function look(): Promise<void> {
    const address = [spot().page, site().address].find((one) => addressProblem(one) === null)
    const origin = receiver.publicUrl
    if (address === undefined || origin === null) {
      state.value = 'unknown'
      return
    }
    state.value = 'looking'
    const { src } = new DOMParser().parseFromString(sharedLine(origin), 'text/html').querySelector('script')!
    const found = await receiver.fetchPage(address.trim()).catch(() => null)
    if (found === null || found.status >= 400) state.value = 'unknown'
    else {
      const scripts = new DOMParser().parseFromString(found.html, 'text/html').querySelectorAll('script[src]')
      const isThere = [...scripts].some((script) => script.getAttribute('src') === src)
      state.value = isThere ? 'there' : 'missing'
    }
  }
  watchEffect(() => void look())
  return { state, look }
}
