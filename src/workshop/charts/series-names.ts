import type ApexCharts from 'apexcharts'
import { escapeText } from '#core/render'

type Options = ApexCharts.ApexOptions

/** Names of series are HTML to the chart, in legends and tooltips: what owners and visitors wrote stays text. */
export function withNamesAsText(options: Options | null): Options | null {
  const series = options?.series
  if (series === undefined) return options
  const named = series.map((one) =>
    typeof one === 'object' && one !== null && 'name' in one ? { ...one, name: escapeText(one.name ?? '') } : one,
  )
  return { ...options, series: named as NonNullable<Options['series']> }
}
