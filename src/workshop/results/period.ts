import { dayAfter, daysFrom } from '#core/results'

export const periods = [
  { value: '7', label: '7 days' },
  { value: '30', label: '30 days' },
  { value: '60', label: '60 days' },
  { value: '365', label: 'A year' },
  { value: 'own', label: 'Own dates' },
] as const
export type PeriodName = (typeof periods)[number]['value']

/** Days, both included. */
export interface Period {
  from: string
  to: string
}

/** @param today the last day of it */
export function periodOf(name: PeriodName, own: readonly [string, string] | null, today: string): Period {
  if (name === 'own' && own !== null) return { from: own[0], to: own[1] }
  const days = name === 'own' ? 30 : Number(name)
  return { from: dayAfter(today, 1 - days), to: today }
}

/** As many days right before. */
export function periodBefore({ from, to }: Period): Period {
  const days = daysFrom(from, to).length
  return { from: dayAfter(from, -days), to: dayAfter(from, -1) }
}
