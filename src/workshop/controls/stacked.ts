/**
 * For a table whose rows become cards on a phone: each cell is told its column's name, which stands before it there. The
 * rules are in `styles/element/table.css`.
 */
export const stacked = {
  class: 'stacked',
  cellStyle: ({ column }: { column: { label?: string } }) => ({ '--label': JSON.stringify(column.label ?? '') }),
}
