/** Lets the arrow keys go from row to row of a list, wherever in a row the focus is; Home and End to its ends. */
export function useRowKeys(): (event: KeyboardEvent) => void {
  return (event) => {
    const target = event.target as HTMLElement
    const row = target.closest('li')
    if (row === null || event.ctrlKey || event.metaKey || event.altKey || target.closest('input:not([type=checkbox])'))
      return
    const rows = [...(row.parentElement?.children ?? [])] as HTMLElement[]
    const at = rows.indexOf(row as HTMLElement)
    const to = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: rows.length - 1 }[event.key]
    const next = to === undefined ? undefined : rows[to]
    if (next === undefined) return
    event.preventDefault()
    const kind = target.matches('input') ? 'input' : 'a'
    next.querySelector<HTMLElement>(kind)?.focus()
  }
}
