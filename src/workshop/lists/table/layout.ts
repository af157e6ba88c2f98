import { computed } from 'vue'
import type { List, TableLayout } from '#core/list'
import { useWorkspace } from '../../data'

export interface TableColumn {
  key: string
  title: string
  width: number
  /** As narrow as it goes where there is no room; missing for a width that was given. */
  least?: number
  isHidden: boolean
}

const START: TableLayout = { widths: {}, hidden: [], order: [] }
const LEAST_WIDTH = 60
const MOST_WIDTH = 1_200

/** What every list's table can show, and how wide; a list's own columns stand after the address. */
const facts = [
  { key: 'tags', title: 'Tags', width: 150, least: 90 },
  { key: 'status', title: 'Status', width: 110, least: 100 },
  { key: 'since', title: 'Since', width: 130, least: 118 },
  { key: 'spot', title: 'Spot', width: 210, least: 110 },
  { key: 'page', title: 'Page', width: 150, least: 90 },
]

/** How a list's table is laid out: which columns, in which order, how wide. Kept with the list. */
export function useTableLayout(list: () => List) {
  const workspace = useWorkspace()
  const layout = computed(() => list().table ?? START)
  const columns = computed((): TableColumn[] => {
    const { widths, hidden, order } = layout.value
    const all = [
      { key: 'email', title: 'Email', width: 230, least: 230 },
      ...list().columns.map(({ key, label }) => ({ key: `column ${key}`, title: label, width: 130, least: 90 })),
      ...facts,
    ]
    const isColumnHidden = new Set(list().columns.flatMap(({ key, isHidden }) => (isHidden ? [`column ${key}`] : [])))
    const placeOf = ({ key }: { key: string }) => {
      const place = order.indexOf(key)
      return place < 0 ? order.length : place
    }
    return all
      .toSorted((one, other) => placeOf(one) - placeOf(other))
      .map(({ least, ...column }) => ({
        ...column,
        width: widths[column.key] ?? column.width,
        ...(widths[column.key] === undefined && { least }),
        // The address says who it is.
        isHidden: column.key !== 'email' && (hidden.includes(column.key) || isColumnHidden.has(column.key)),
      }))
  })
  const keep = (changes: Partial<TableLayout>) =>
    workspace.changeList(list().id, { table: { ...layout.value, ...changes } })

  /** Moves a column from one place to another. */
  function put(from: number, to: number): Promise<unknown> {
    const order = columns.value.map(({ key }) => key)
    const key = order[from]
    if (key === undefined || to < 0 || to >= order.length) return Promise.resolve()
    return keep({ order: order.toSpliced(from, 1).toSpliced(to, 0, key) })
  }

  return {
    columns,
    shown: computed(() => columns.value.filter(({ isHidden }) => !isHidden)),
    async toggle(key: string): Promise<void> {
      const { hidden } = layout.value
      const isHidden = columns.value.find((column) => column.key === key)?.isHidden ?? false
      const own = list().columns.map((column) =>
        `column ${column.key}` === key ? { ...column, isHidden: !isHidden } : column,
      )
      if (key.startsWith('column ')) await workspace.changeList(list().id, { columns: own })
      else await keep({ hidden: isHidden ? hidden.filter((one) => one !== key) : [...hidden, key] })
    },
    move(key: string, by: 1 | -1): Promise<unknown> {
      const from = columns.value.findIndex((column) => column.key === key)
      return put(from, from + by)
    },
    put,
    widen(key: string, width: number): Promise<unknown> {
      const within = Math.round(Math.min(MOST_WIDTH, Math.max(LEAST_WIDTH, width)))
      return keep({ widths: { ...layout.value.widths, [key]: within } })
    },
    reset: () => workspace.changeList(list().id, { table: START }),
  }
}
export type TableLayoutInHand = ReturnType<typeof useTableLayout>

/**
 * Columns made narrower where there is no room for them all, each by its part of what it can give; what was given a width
 * keeps it. Where even that does not do, the table scrolls.
 *
 * @param room in CSS pixels
 */
export function narrowed<One extends Pick<TableColumn, 'width' | 'least'>>(
  columns: readonly One[],
  room: number,
): One[] {
  const missing = columns.reduce((sum, { width }) => sum + width, 0) - room
  const given = columns.reduce((sum, { width, least = width }) => sum + width - least, 0)
  if (missing <= 0 || given === 0) return [...columns]
  const share = Math.min(1, missing / given)
  return columns.map((column) => ({
    ...column,
    width: Math.floor(column.width - (column.width - (column.least ?? column.width)) * share),
  }))
}
