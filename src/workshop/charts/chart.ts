import type ApexCharts from 'apexcharts'
import { useIntersectionObserver } from '@vueuse/core'
import { nextTick, onBeforeUnmount, type Ref, shallowRef, watch } from 'vue'
import { withNamesAsText } from './series-names'

/** Counts changes of appearance, so that options with colours in them are made anew. */
const appearance = shallowRef(0)
let isWatched = false
function watchAppearance(): void {
  if (isWatched) return
  isWatched = true
  new MutationObserver(() => (appearance.value += 1)).observe(document.documentElement, { attributeFilter: ['class'] })
}

/** A colour of the workshop's, as a chart can take it. What is computed with it follows a change of appearance. */
export function colour(name: string): string {
  watchAppearance()
  void appearance.value
  return getComputedStyle(document.documentElement).getPropertyValue(name).trim()
}

/** Of parts that stand beside each other. */
export const partColours = (): string[] => ['--part-1', '--part-2', '--part-3', '--part-4', '--part-5'].map(colour)
/** Of all parts beyond those. */
export const othersColour = (): string => colour('--edge')

export type ChartOptions = ApexCharts.ApexOptions
type Options = ChartOptions

/** What all charts have in common. */
export const baseOptions = (): Options => ({
  chart: {
    // By name: a saved picture inherits nothing.
    fontFamily: `${getComputedStyle(document.body).fontFamily}, sans-serif`,
    background: 'transparent',
    foreColor: colour('--quiet'),
    toolbar: { show: false },
    zoom: { enabled: false },
    animations: { enabled: false },
  },
  dataLabels: { enabled: false },
  grid: { borderColor: colour('--hairline') },
  legend: { position: 'top', horizontalAlign: 'left', labels: { colors: colour('--ink') } },
})

export const tooltip = () => ({
  theme: document.documentElement.classList.contains('dark') ? 'dark' : 'light',
})

/** It is as large as the rest, so it is fetched while what is drawn is counted. */
export const loadCharts = () => import('apexcharts')

/** Of the page that is open; each draws itself, wherever it stands. */
const charts = new Set<() => Promise<void>>()
/** Resolves once every chart of the page is drawn. */
export const drawAllCharts = (): Promise<unknown> => Promise.all([...charts].map((draw) => draw()))

/** So far below what is seen, a chart is drawn before somebody comes to it. */
const NEAR_PX = 200
/** What is further below waits until the page has nothing else to do. */
const IDLE_MS = 2_000

/**
 * Draws into a place, what is near to be seen first, and anew whenever the options change. ApexCharts is loaded with the
 * first chart.
 */
export function useChart(place: Readonly<Ref<HTMLElement | null>>, options: () => Options | null) {
  let chart: ApexCharts | null = null
  let drawn = Promise.resolve()
  /** Whether its turn has come: drawing is what a page of many charts takes longest for. */
  const isDue = shallowRef(false)
  useIntersectionObserver(place, ([seen]) => (isDue.value ||= seen?.isIntersecting === true), {
    rootMargin: `${NEAR_PX}px`,
  })
  const idle = setTimeout(() => (isDue.value = true), IDLE_MS)
  const drawNow = async () => {
    isDue.value = true
    await nextTick()
    await drawn
  }
  charts.add(drawNow)
  async function draw(): Promise<void> {
    await nextTick()
    const wanted = withNamesAsText(options())
    if (wanted === null || place.value === null) {
      chart?.destroy()
      chart = null
      return
    }
    if (!isDue.value) return
    const { default: Chart } = await loadCharts()
    if (place.value === null) return
    if (chart === null) {
      chart = new Chart(place.value, wanted)
      await chart.render()
    } else await chart.updateOptions(wanted, true, false)
  }
  watch([options, isDue], () => void (drawn = draw()), { immediate: true, flush: 'post' })
  onBeforeUnmount(() => {
    clearTimeout(idle)
    charts.delete(drawNow)
    chart?.destroy()
  })
  return {
    /** As a picture that stands alone, with its title and a line below it; null where there is nothing to draw. */
    async saved(kind: 'png' | 'svg', title: string, about: string): Promise<Blob | null> {
      const wanted = withNamesAsText(options())
      if (wanted === null) return null
      const alone = await drawnAlone(wanted, title, about)
      try {
        if (kind === 'png') {
          const { imgURI } = (await alone.chart.dataURI({ scale: 2 })) as { imgURI: string }
          // The workshop's content policy lets nothing be fetched by such an address.
          const bytes = Uint8Array.from(atob(imgURI.slice(imgURI.indexOf(',') + 1)), (char) => char.charCodeAt(0))
          return new Blob([bytes], { type: 'image/png' })
        }
        const svg = alone.place.querySelector('svg')
        return svg ? new Blob([new XMLSerializer().serializeToString(svg)], { type: 'image/svg+xml' }) : null
      } finally {
        alone.chart.destroy()
        alone.place.remove()
      }
    },
  }
}

const SAVED_PX = { width: 960, height: 420 }

/** The same chart once more, out of sight, as large as a page wants it. */
async function drawnAlone(wanted: Options, title: string, about: string) {
  const { default: Chart } = await loadCharts()
  const place = document.createElement('div')
  place.style.cssText = `position: fixed; left: -9999px; width: ${SAVED_PX.width}px`
  document.body.append(place)
  const text = (size: string, weight: number, name: string) => ({
    style: { fontSize: size, fontWeight: weight, color: colour(name) },
  })
  const chart = new Chart(place, {
    ...wanted,
    chart: { ...wanted.chart, ...SAVED_PX, background: colour('--sheet') },
    title: { text: title, ...text('18px', 650, '--ink') },
    subtitle: { text: about, ...text('12px', 400, '--quiet') },
    legend: { ...wanted.legend, position: 'bottom' },
  })
  await chart.render()
  return { chart, place }
}
