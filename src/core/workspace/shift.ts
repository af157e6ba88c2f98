import type { Workspace } from './workspace'

const DAY_MS = 86_400_000

/**
 * The same workspace with every time moved by whole days, so that its newest moment lies within the day
 * before `now`: a demo made once stays fresh, and hours of the day stay what they were.
 */
export function shiftedTo(now: string, workspace: Workspace): Workspace {
  const days = Math.floor((Date.parse(now) - Date.parse(workspace.exportedAt)) / DAY_MS)
  const shift = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(shift)
    if (value === null || typeof value !== 'object') return value
    return Object.fromEntries(
      Object.entries(value).map(([key, inner]) => [
        key,
        typeof inner === 'string' && (key === 'at' || key.endsWith('At')) && TIME.test(inner)
          ? moved(inner, days)
          : shift(inner),
      ]),
    )
  }
  return shift(workspace) as Workspace
}

/** Other things are said to be “at” something, too: pages, for instance. */
const TIME = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2}(?:\.\d+)?Z$/

function moved(time: string, days: number): string {
  return new Date(Date.parse(time) + days * DAY_MS).toISOString()
}
