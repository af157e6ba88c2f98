import { defineStore } from 'pinia'
import type { SiteId } from '#core/ids'
import type { Palette } from '#core/look'
import type { Picture } from '#core/picture'
import type { Site, SiteKind } from '#core/site'
import type { Trial } from '#core/trial'
import { newId, now } from '../clock'
import { connectionChanges } from './connection-changes'
import { database } from './database'
import { formChanges } from './form-changes'
import { useWorkspaceTables } from './workspace-tables'
import { listChanges } from './list-changes'

/** Everything the owner makes, and what is done to it. Every action is saved when its promise resolves. */
export const useWorkspace = defineStore('workspace', () => {
  const tables = useWorkspaceTables()
  const lists = listChanges()

  async function makeSite({
    palette = null,
    ...facts
  }: {
    name: string
    address: string
    kind: SiteKind
    palette?: Palette | null
  }): Promise<Site> {
    const zone = Intl.DateTimeFormat().resolvedOptions().timeZone
    const made: Site = { id: newId<SiteId>(), ...facts, palette, zone, createdAt: now() }
    await database.sites.add(made)
    return made
  }

  /** Whole or not at all: a form with the list and the site that are made with it. */
  const inOneStep = <T>(work: () => Promise<T>) =>
    database.transaction('rw', [database.sites, database.lists, database.forms, database.spots], work)

  const changeSite = (id: SiteId, changes: Partial<Omit<Site, 'id' | 'createdAt'>>) =>
    database.sites.update(id, changes)
  const keepTrial = (one: Trial) => database.trials.put(one)

  const keepPicture = (picture: Picture) => database.pictures.put(picture)

  return {
    ...tables,
    ...lists,
    ...formChanges(tables, lists.addColumns),
    ...connectionChanges(tables),
    ...{ makeSite, changeSite, inOneStep, keepTrial, keepPicture },
  }
})
