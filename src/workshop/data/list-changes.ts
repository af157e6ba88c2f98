import type { ListId } from '#core/ids'
import { type Column, type List, startList } from '#core/list'
import { newId, now } from '../clock'
import { database } from './database'

/** What is done to lists, each saved when its promise resolves. */
export function listChanges() {
  async function makeList(name: string): Promise<List> {
    const made = startList(newId<ListId>(), name, now())
    await database.lists.add(made)
    return made
  }

  /** Columns that are there already stay as they are. */
  const addColumns = (id: ListId, columns: readonly Column[]) =>
    database.lists
      .where('id')
      .equals(id)
      .modify((list) => {
        for (const column of columns) if (!list.columns.some(({ key }) => key === column.key)) list.columns.push(column)
      })
  /** Gives a column another name, unless it was called something else meanwhile. */
  const renameColumn = (id: ListId, key: string, from: string, to: string) =>
    database.lists
      .where('id')
      .equals(id)
      .modify((list) => {
        const column = list.columns.find((one) => one.key === key)
        if (column?.label === from) column.label = to
      })
  /** Takes back columns that no form was ever published with, so that nobody can have filled them. Others stay. */
  const takeBackColumns = (id: ListId, keys: readonly string[]) =>
    database.transaction('rw', database.lists, database.forms, database.versions, async () => {
      const contents = [
        ...(await database.versions.toArray()).filter(({ list }) => list === id).map(({ content }) => content),
        ...(await database.forms.toArray()).filter(({ list }) => list === id).map(({ draft }) => draft),
      ]
      const filled = new Set(contents.flatMap(({ fields }) => fields.map(({ column }) => column)))
      await database.lists
        .where('id')
        .equals(id)
        .modify((list) => {
          list.columns = list.columns.filter(({ key }) => !keys.includes(key) || filled.has(key))
        })
    })
  /** Takes a list out of sight. Resolves with what brings it back. */
  async function removeList(id: ListId): Promise<() => Promise<unknown>> {
    await database.lists.update(id, { deletedAt: now() })
    return () => database.lists.update(id, { deletedAt: undefined })
  }
  const changeList = (id: ListId, changes: Partial<Omit<List, 'id' | 'createdAt'>>) =>
    database.lists.update(id, changes)
  return { makeList, changeList, removeList, addColumns, renameColumn, takeBackColumns }
}
