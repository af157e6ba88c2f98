import { computed, onScopeDispose, type Ref, ref, shallowRef, watch } from 'vue'
import { pageGroups } from '#core/crawl'
import type { Rule } from '#core/rule'
import { addressProblem, type Site, sitePath } from '#core/site'
import type { Spot } from '#core/spot'
import { clientFor } from '../../../client'
import { useReceiver } from '../../../sync'
import { callWorker } from '../../../worker-calls'
import type { PlacesFunctions, PlacesOnPage } from './places-worker'

const MOST = 6
const REST_MS = 500

export interface SamplePage {
  address: string
  /** Null until it is read. */
  places: PlacesOnPage | null
  problem: string
}

/** A few pages of a site, one of each of its groups where it was looked through, and how many places a rule has on each. */
export function useSamplePages(spot: () => Spot, site: () => Site, rule: Ref<Rule>) {
  const receiver = useReceiver()
  const found = shallowRef<string[]>([])
  const addresses = computed(() =>
    [...new Set([spot().page.trim(), site().address.trim(), ...found.value])]
      .filter((address) => addressProblem(address) === null)
      .slice(0, MOST),
  )
  const pages = shallowRef<SamplePage[]>([])
  const isReading = ref(false)
  const html = new Map<string, { html: string; path: string }>()

  async function findMore(): Promise<void> {
    if (receiver.pairing === null || addressProblem(site().address) !== null) return
    const { newest } = await clientFor({ ...receiver.pairing })
      .crawl(site().id)
      .catch(() => ({ newest: null }))
    const origin = new URL(site().address).origin
    const sound = newest?.pages.filter(({ problem }) => problem === undefined) ?? []
    found.value = pageGroups(sound, sitePath(site().address)).map(({ pages }) => `${origin}${pages[0]!.path}`)
  }

  let wish = 0
  async function look(): Promise<void> {
    const mine = ++wish
    isReading.value = true
    const plain = JSON.parse(JSON.stringify(rule.value)) as Rule
    const under = sitePath(site().address)
    const read = await Promise.all(
      addresses.value.map(async (address): Promise<SamplePage> => {
        try {
          const page = html.get(address) ?? (await fetched(address))
          html.set(address, page)
          const worker = new Worker(new URL('./places-worker.ts', import.meta.url), { type: 'module' })
          const places = await callWorker<PlacesFunctions, PlacesOnPage>(worker, (functions) =>
            functions.places(page.html, page.path, plain, under),
          )
          return { address, places, problem: '' }
        } catch (error) {
          return { address, places: null, problem: error instanceof Error ? error.message : String(error) }
        }
      }),
    )
    if (mine !== wish) return
    pages.value = read
    isReading.value = false
  }

  async function fetched(address: string): Promise<{ html: string; path: string }> {
    const page = await receiver.fetchPage(address)
    if (page.status >= 400) throw new Error(`It answers ${page.status}.`)
    return { html: page.html, path: new URL(page.address).pathname }
  }

  let timer: ReturnType<typeof setTimeout> | undefined
  watch(
    [addresses, rule],
    () => {
      clearTimeout(timer)
      timer = setTimeout(() => void look(), REST_MS)
    },
    { immediate: true, deep: true },
  )
  onScopeDispose(() => clearTimeout(timer))
  void findMore()
  return { addresses, pages, isReading }
}
