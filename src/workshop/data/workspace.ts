import { codeAdvice } from '#core/embed'
import { defineStore } from 'pinia'
import { computed } from 'vue'
import {
  columnsLacking,
  type Form,
  type FormContent,
  type Shape,
  shapeForSpot,
  startContent,
  type Version,
  withOwner,
} from '#core/form'
import type { Connection, HandOver } from '#core/connection'
import type { ConnectionId, FormId, HandOverId, ListId, SiteId, SpotId } from '#core/ids'
import { type Column, type List, startList } from '#core/list'
import { type Palette, quietPalette } from '#core/look'
import { ownersAddress } from '#core/mail'
import type { Picture } from '#core/picture'
import type { Site, SiteKind } from '#core/site'
import type { PopUp, Spot, SpotKind } from '#core/spot'
import type { Language } from '#core/texts'
import type { Trial } from '#core/trial'
import { newId, now } from '../clock'
import { database } from './database'
import { useLiveTogether } from './live'

/** Everything the owner makes: small, so all of it is at hand. Every action is saved when its promise resolves. */
export const useWorkspace = defineStore('workspace', () => {
  // One query a table: a keystroke writes a form, and reads forms alone.
  const tables = useLiveTogether({
    sites: () => database.sites.toArray(),
    lists: () => database.lists.toArray(),
    mails: () => database.mails.toArray(),
    connections: () => database.connections.toArray(),
    handOvers: () => database.handOvers.toArray(),
    forms: () => database.forms.toArray(),
    versions: () => database.versions.toArray(),
    spots: () => database.spots.toArray(),
    trials: () => database.trials.toArray(),
    pictures: () => database.pictures.toArray(),
  })
  const all = {
    sites: computed(() => tables.sites.value ?? []),
    lists: computed(() => tables.lists.value ?? []),
    mails: computed(() => tables.mails.value ?? []),
    connections: computed(() => tables.connections.value ?? []),
    handOvers: computed(() => tables.handOvers.value ?? []),
    forms: computed(() => tables.forms.value ?? []),
    versions: computed(() => tables.versions.value ?? []),
    // Oldest first: a new one comes after those that are known.
    spots: computed(() =>
      [...(tables.spots.value ?? [])].sort((one, other) => one.createdAt.localeCompare(other.createdAt)),
    ),
    trials: computed(() => tables.trials.value ?? []),
    pictures: computed(() => tables.pictures.value ?? []),
  }
  const isLoaded = computed(() => Object.values(tables).every((table) => table.value !== null))
  const sites = computed(() => byName(all.sites.value))
  /** Those that are in use. */
  const lists = computed(() => byName(all.lists.value.filter(({ isArchived, deletedAt }) => !isArchived && !deletedAt)))
  const archivedLists = computed(() =>
    byName(all.lists.value.filter(({ isArchived, deletedAt }) => isArchived && !deletedAt)),
  )
  const forms = computed(() => [...all.forms.value].sort((one, other) => other.createdAt.localeCompare(one.createdAt)))

  const pictures = computed(() => all.pictures.value)

  const site = (id: SiteId) => all.sites.value.find((one) => one.id === id) ?? null
  const list = (id: ListId) => all.lists.value.find((one) => one.id === id) ?? null
  const mail = (id: ListId) => all.mails.value.find((one) => one.list === id) ?? null
  const form = (id: FormId) => all.forms.value.find((one) => one.id === id) ?? null
  const spot = (id: SpotId) => all.spots.value.find((one) => one.id === id) ?? null
  const spotsOf = (id: FormId) => all.spots.value.filter((one) => one.form === id)
  const allVersionsOf = (id: FormId) => all.versions.value.filter((one) => one.form === id)
  /** Without those that are only tried. */
  const versionsOf = (id: FormId) => allVersionsOf(id).filter(({ isTried }) => !isTried)
  /** Colours of the site where a form sits first. */
  const paletteOf = (id: FormId): Palette => {
    const [first] = spotsOf(id)
    return (first && site(first.site)?.palette) ?? quietPalette
  }
  const latestVersion = (id: FormId): Version | null =>
    versionsOf(id).reduce<Version | null>((best, one) => (best === null || one.number > best.number ? one : best), null)

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

  async function makeList(name: string): Promise<List> {
    const made = startList(newId<ListId>(), name, now())
    await database.lists.add(made)
    return made
  }

  /** What the newest form on a site speaks, which the next one there will speak as well. */
  function languageOf(site: SiteId): Language {
    const there = all.spots.value.filter((spot) => spot.site === site)
    const newest = there
      .sort((one, other) => other.createdAt.localeCompare(one.createdAt))
      .flatMap((spot) => form(spot.form) ?? [])[0]
    return newest?.draft.language ?? 'en'
  }

  /** Whole or not at all: a form with the list and the site that are made with it. */
  const inOneStep = <T>(work: () => Promise<T>) =>
    database.transaction('rw', [database.sites, database.lists, database.forms, database.spots], work)

  /** A form with its first spot. */
  async function makeForm(facts: {
    name: string
    list: List
    site: Site
    kind: SpotKind
    page: string
    palette?: Palette
    shape?: Shape
    popUp?: PopUp
    /** The site that it is meant for, where it is tried on a pretend one first. */
    meant?: SiteId
  }): Promise<Form> {
    const made: Form = {
      id: newId<FormId>(),
      name: facts.name,
      list: facts.list.id,
      theme: null,
      isArchived: false,
      draft: withOwner(
        startContent(
          facts.list.name,
          facts.shape ?? shapeForSpot(facts.kind),
          facts.palette ?? facts.site.palette ?? quietPalette,
          languageOf(facts.site.id),
        ),
        ownersAddress(mail(facts.list.id)?.draft ?? null),
      ),
      createdAt: now(),
    }
    await database.transaction('rw', database.forms, database.spots, async () => {
      await database.forms.add(made)
      await makeSpot(made.id, facts)
    })
    // From now on there is something to lose: ask the browser to keep it. It may refuse; Settings tells.
    void navigator.storage?.persist?.()
    return made
  }

  const spots = computed(() => all.spots.value)
  const liveSpotsOf = (id: FormId) => spotsOf(id).filter(({ state }) => state === 'live')
  /** Whether a form is a page of its own somewhere, and whether it stands within pages of a site. It can be both. */
  const isPage = (id: FormId) => liveSpotsOf(id).some(({ kind }) => kind === 'landing')
  /** Where the form opens over a page, where that is the only way in which it is seen; null for any other. */
  const popUpOf = (id: FormId) => {
    const [first, ...others] = liveSpotsOf(id)
    const isOne = first?.kind === 'pop-up' && others.every(({ kind }) => kind === 'pop-up')
    return isOne ? (first.popUp?.position ?? 'middle') : null
  }
  const isWithinPages = (id: FormId) => liveSpotsOf(id).some(({ kind }) => kind !== 'landing')

  async function makeSpot(
    formId: FormId,
    facts: { site: Site; kind: SpotKind; page: string; popUp?: PopUp; meant?: SiteId },
  ): Promise<Spot> {
    const made: Spot = {
      id: newId<SpotId>(),
      form: formId,
      site: facts.site.id,
      kind: facts.kind,
      page: facts.page,
      // Kept, so that a site whose kind is corrected later does not change what stands on a page already.
      code: codeAdvice(facts, facts.site).works[0].kind,
      ...(facts.popUp && { popUp: facts.popUp }),
      ...(facts.meant && { meant: facts.meant }),
      state: 'live',
      createdAt: now(),
    }
    await database.spots.add(made)
    return made
  }

  /** From the next publishing on, sign-ups go to another list; who is on the one before stays there. It gets the columns that the form fills. */
  async function feedList(id: FormId, list: ListId): Promise<void> {
    await database.transaction('rw', database.forms, database.lists, async () => {
      await database.forms.update(id, { list })
      const lacking = columnsLacking(form(id)?.draft.fields ?? [], (await database.lists.get(list))?.columns ?? [])
      if (lacking.length > 0) await addColumns(list, lacking)
    })
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
  const renameForm = (id: FormId, name: string) => database.forms.update(id, { name })
  const changeSite = (id: SiteId, changes: Partial<Omit<Site, 'id' | 'createdAt'>>) =>
    database.sites.update(id, changes)
  /** Takes a list out of sight. Resolves with what brings it back. */
  const connections = computed(() => byName(all.connections.value))
  const connection = (id: ConnectionId) => all.connections.value.find((one) => one.id === id) ?? null
  const handOver = (id: HandOverId) => all.handOvers.value.find((one) => one.id === id) ?? null
  const handOversOf = (id: ListId) =>
    all.handOvers.value
      .filter((one) => one.list === id)
      .sort((one, other) => one.createdAt.localeCompare(other.createdAt))
  const keepConnection = (one: Connection) => database.connections.put(one)
  const keepHandOver = (one: HandOver) => database.handOvers.put(one)
  /** With the hand-overs that go by it. */
  async function removeConnection(id: ConnectionId): Promise<() => Promise<unknown>> {
    const [before, handedOn] = [connection(id), all.handOvers.value.filter((one) => one.connection === id)]
    await database.transaction('rw', database.connections, database.handOvers, async () => {
      await database.handOvers.bulkDelete(handedOn.map((one) => one.id))
      await database.connections.delete(id)
    })
    return () =>
      database.transaction('rw', database.connections, database.handOvers, async () => {
        if (before !== null) await database.connections.put(before)
        await database.handOvers.bulkPut(handedOn)
      })
  }
  async function removeHandOver(id: HandOverId): Promise<() => Promise<unknown>> {
    const before = handOver(id)
    await database.handOvers.delete(id)
    return () => (before === null ? Promise.resolve() : database.handOvers.put(before))
  }

  async function removeList(id: ListId): Promise<() => Promise<unknown>> {
    await database.lists.update(id, { deletedAt: now() })
    return () => database.lists.update(id, { deletedAt: undefined })
  }
  const changeList = (id: ListId, changes: Partial<Omit<List, 'id' | 'createdAt'>>) =>
    database.lists.update(id, changes)
  /** What a form that was just made becomes. */
  const changeDraft = (id: FormId, draft: FormContent) => database.forms.update(id, { draft })
  const changeSpot = (id: SpotId, changes: Partial<Omit<Spot, 'id' | 'form' | 'createdAt'>>) =>
    database.spots.update(id, {
      ...changes,
      ...(changes.state !== undefined && changes.state !== spot(id)?.state && { stateAt: now() }),
    })

  /** The number that the next publication gets, after those that are only tried as well. */
  const nextVersion = (id: FormId): number => Math.max(0, ...allVersionsOf(id).map(({ number }) => number)) + 1

  /** Newest first. */
  const trialsOf = (id: FormId) =>
    all.trials.value
      .filter(({ form }) => form === id)
      .toSorted((one, other) => other.startedAt.localeCompare(one.startedAt))
  /** What is shown in turn at a spot while a trial goes on there. */
  const triedAt = ({ id, form: of }: Pick<Spot, 'id' | 'form'>): FormContent[] => {
    const trial = all.trials.value.find(({ spot, ended }) => spot === id && ended === undefined)
    const numbers = trial?.wordings.map(({ version }) => version) ?? []
    return allVersionsOf(of).flatMap(({ number, content }) => (numbers.includes(number) ? [content] : []))
  }
  const keepTrial = (one: Trial) => database.trials.put(one)

  const keepPicture = (picture: Picture) => database.pictures.put(picture)

  /** A copy with its own draft and spots of the same kind on the same sites, nothing published. */
  async function duplicateForm(id: FormId): Promise<Form> {
    const original = form(id)
    if (original === null) throw new Error('This form does not exist any more.')
    const made: Form = {
      ...original,
      id: newId<FormId>(),
      name: `${original.name}, copy`.slice(0, 200),
      isArchived: false,
      createdAt: now(),
    }
    await database.transaction('rw', database.forms, database.spots, async () => {
      await database.forms.add(made)
      for (const one of spotsOf(id))
        await database.spots.add({
          ...one,
          id: newId<SpotId>(),
          form: made.id,
          page: '',
          state: 'live',
          createdAt: now(),
        })
    })
    return made
  }

  const archiveForm = (id: FormId, isArchived: boolean) => database.forms.update(id, { isArchived })

  /** Takes a form away with its spots, which the receiver then closes. Its versions stay: receipts name them. Resolves with what brings it back. */
  async function deleteForm(id: FormId): Promise<() => Promise<void>> {
    const [kept, spots, trials] = [form(id), spotsOf(id), trialsOf(id)]
    if (kept === null) throw new Error('This form does not exist any more.')
    const tables = [database.forms, database.spots, database.trials]
    await database.transaction('rw', tables, async () => {
      await database.forms.delete(id)
      await database.spots.bulkDelete(spots.map((spot) => spot.id))
      await database.trials.bulkDelete(trials.map((trial) => trial.id))
    })
    return () =>
      database.transaction('rw', tables, async () => {
        await database.forms.put(kept)
        await database.spots.bulkPut(spots)
        await database.trials.bulkPut(trials)
      })
  }

  return {
    isLoaded,
    sites,
    lists,
    archivedLists,
    forms,
    site,
    list,
    mail,
    form,
    spot,
    spots,
    spotsOf,
    versionsOf,
    allVersionsOf,
    latestVersion,
    nextVersion,
    makeSite,
    makeList,
    makeForm,
    inOneStep,
    languageOf,
    makeSpot,
    renameForm,
    changeSite,
    changeList,
    removeList,
    changeDraft,
    changeSpot,
    connections,
    connection,
    handOver,
    handOvers: all.handOvers,
    handOversOf,
    keepConnection,
    keepHandOver,
    removeConnection,
    removeHandOver,
    feedList,
    addColumns,
    renameColumn,
    takeBackColumns,
    pictures,
    paletteOf,
    trials: all.trials,
    trialsOf,
    triedAt,
    keepTrial,
    keepPicture,
    duplicateForm,
    archiveForm,
    deleteForm,
    isPage,
    isWithinPages,
    popUpOf,
  }
})

export function byName<T extends { name: string }>(all: readonly T[]): T[] {
  return [...all].sort((one, other) => one.name.localeCompare(other.name))
}
