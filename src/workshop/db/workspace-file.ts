import { applyToMember, affectedMember, type Member } from '#core/list'
import { emptyWorkspace, type Workspace } from '#core/workspace'
import { database, readSetting, writeSetting } from './database'

/** Everything this workshop holds, as of one moment. */
export async function exportWorkspace(now: string): Promise<Workspace> {
  return database.transaction('r', database.tables, async () => ({
    ...emptyWorkspace(now),
    sites: await database.sites.toArray(),
    lists: await database.lists.toArray(),
    forms: await database.forms.toArray(),
    versions: await database.versions.toArray(),
    spots: await database.spots.toArray(),
    themes: await database.themes.toArray(),
    pictures: await database.pictures.toArray(),
    journal: { id: (await readSetting('journal'))?.id ?? null, entries: await database.entries.orderBy('n').toArray() },
    commands: (await database.commands.toArray()).filter(({ refusal, takenBack }) => refusal === null && takenBack === undefined).map(({ command }) => command),
  }))
}

/** Puts a workspace in the place of everything here, in one step. The pairing stays. */
export async function replaceWorkspace(workspace: Workspace, now: string): Promise<void> {
  const members = new Map<string, Member | null>()
  for (const entry of workspace.journal.entries) {
    const id = affectedMember(entry)
    if (id !== null) members.set(id, applyToMember(members.get(id) ?? null, entry))
  }
  await database.transaction('rw', database.tables, async () => {
    for (const table of database.tables) if (table.name !== 'settings') await table.clear()
    await database.sites.bulkPut(workspace.sites)
    await database.lists.bulkPut(workspace.lists)
    await database.forms.bulkPut(workspace.forms)
    await database.versions.bulkPut(workspace.versions)
    await database.spots.bulkPut(workspace.spots)
    await database.themes.bulkPut(workspace.themes)
    await database.pictures.bulkPut(workspace.pictures)
    await database.entries.bulkPut(workspace.journal.entries)
    await database.members.bulkPut([...members.values()].filter((member) => member !== null))
    await database.commands.bulkPut(workspace.commands.map((command) => ({ id: command.id, command, queuedAt: now, refusal: null })))
    const { id, entries } = workspace.journal
    if (id === null) await database.settings.delete('journal')
    else await writeSetting('journal', { id, cursor: entries.length })
  })
}
