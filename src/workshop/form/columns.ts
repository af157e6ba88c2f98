import { columnLabel, columnsLacking, type FormContent } from '#core/form'
import type { ListId } from '#core/ids'
import type { Column } from '#core/list'
import { useWorkspace } from '../data'
import type { Beside } from '../document'

/** Columns that a list gets with a change of a form, and loses with its undo unless somebody may have filled them. */
export function columnsBeside(list: ListId, columns: readonly Column[]): Beside | null {
  if (columns.length === 0) return null
  const workspace = useWorkspace()
  return {
    apply: () => workspace.addColumns(list, columns),
    revert: () =>
      workspace.takeBackColumns(
        list,
        columns.map(({ key }) => key),
      ),
  }
}

/**
 * What a change of a form's fields means for its list: a column for each answer that has none, and another name for the
 * column of a field that is renamed, while both were called alike and no other form fills it.
 */
export function columnsWith(list: ListId, before: FormContent, after: FormContent): Beside | null {
  const workspace = useWorkspace()
  const columns = workspace.list(list)?.columns ?? []
  const changed = after.fields.flatMap((field) => {
    const was = before.fields.find(({ key }) => key === field.key)
    return was === undefined || was.column !== field.column || was.label !== field.label ? [{ field, was }] : []
  })
  const lacking = columnsLacking(
    changed.filter(({ field, was }) => was?.column !== field.column).map(({ field }) => field),
    columns,
  )
  const isShared = (key: string) =>
    workspace.forms.filter((form) => form.list === list && form.draft.fields.some(({ column }) => column === key))
      .length > 1
  const renamed = changed.flatMap(({ field, was }) =>
    was === undefined || columnLabel(was) === columnLabel(field) || field.column === '' || isShared(field.column)
      ? []
      : [{ key: field.column, from: columnLabel(was), to: columnLabel(field) }],
  )
  const added = columnsBeside(list, lacking)
  if (renamed.length === 0) return added
  return {
    async apply() {
      await added?.apply()
      for (const { key, from, to } of renamed) await workspace.renameColumn(list, key, from, to)
    },
    async revert() {
      for (const { key, from, to } of renamed) await workspace.renameColumn(list, key, to, from)
      await added?.revert()
    },
  }
}
