import { computed, shallowRef, watch } from 'vue'
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
  const address = computed(() => [spot().page, site().address].find((one) => addressProblem(one) === null)?.trim())
  let wish = 0
  async function look(): Promise<void> {
    const mine = ++wish
    const origin = receiver.publicUrl
    if (address.value === undefined || origin === null) {
      state.value = 'unknown'
      return
    }
    state.value = 'looking'
    const page = await receiver.fetchPage(address.value).catch(() => null)
    // The last wish counts.
    if (mine !== wish) return
    state.value = page === null || page.status >= 400 ? 'unknown' : hasLine(page.html, origin) ? 'there' : 'missing'
  }
  // Not at every change of the spot: its page is fetched from its owner's site.
  watch([address, () => receiver.publicUrl], () => void look(), { immediate: true })
  return { state, look }
}

function hasLine(html: string, origin: string): boolean {
  const read = (text: string) => new DOMParser().parseFromString(text, 'text/html')
  const wanted = read(sharedLine(origin)).querySelector('script')!.getAttribute('src')
  return [...read(html).querySelectorAll('script[src]')].some((script) => script.getAttribute('src') === wanted)
}
