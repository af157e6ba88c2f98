import { inject, type InjectionKey, onBeforeUnmount, provide } from 'vue'
import type { ReportPart } from '#core/report'
import { base64Of } from '../data'

type Part = () => Promise<ReportPart>
const reportKey: InjectionKey<Map<symbol, { order: number; part: Part }>> = Symbol('report')

/** Gathers what the charts and tables below tell, for a page that is saved. */
export function useReport(): () => Promise<ReportPart[]> {
  const parts = new Map<symbol, { order: number; part: Part }>()
  provide(reportKey, parts)
  return () =>
    Promise.all([...parts.values()].toSorted((one, other) => one.order - other.order).map(({ part }) => part()))
}

/** Makes something a part of the page that is saved. */
export function useReportPart(order: number, part: Part): void {
  const parts = inject(reportKey, null)
  const key = Symbol('part')
  parts?.set(key, { order, part })
  onBeforeUnmount(() => parts?.delete(key))
}

const periodKey: InjectionKey<() => string> = Symbol('period')
/** Says of which time all charts below are. */
export const providePeriod = (period: () => string): void => provide(periodKey, period)
export const usePeriod = (): (() => string) => inject(periodKey, () => '')

/** A picture that goes with a page. */
export async function asDataAddress(blob: Blob | null): Promise<string | null> {
  if (blob === null) return null
  return `data:${blob.type};base64,${await base64Of(blob)}`
}
