import { computed } from 'vue'
import type { FormContent, Version } from '#core/form'
import type { ConnectionId, FormId, HandOverId, ListId, SiteId, SpotId } from '#core/ids'
import { type Palette, quietPalette } from '#core/look'
import type { Spot } from '#core/spot'
import type { Language } from '#core/texts'
import { database } from './database'
import { useLiveTogether } from './live'

/** Everything the owner makes, as it is now: small, so all of it is at hand. */
export function useWorkspaceTables() {
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

  /** What the newest form on a site speaks, which the next one there will speak as well. */
  function languageOf(site: SiteId): Language {
    const there = all.spots.value.filter((spot) => spot.site === site)
    const newest = there
      .sort((one, other) => other.createdAt.localeCompare(one.createdAt))
      .flatMap((spot) => form(spot.form) ?? [])[0]
    return newest?.draft.language ?? 'en'
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

  const connections = computed(() => byName(all.connections.value))
  const connection = (id: ConnectionId) => all.connections.value.find((one) => one.id === id) ?? null
  const handOver = (id: HandOverId) => all.handOvers.value.find((one) => one.id === id) ?? null
  const handOversOf = (id: ListId) =>
    all.handOvers.value
      .filter((one) => one.list === id)
      .sort((one, other) => one.createdAt.localeCompare(other.createdAt))
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
  return {
    ...{ isLoaded, sites, lists, archivedLists, forms, pictures, spots, connections },
    ...{ handOvers: all.handOvers, trials: all.trials },
    ...{ site, list, mail, form, spot, connection, handOver },
    ...{ spotsOf, versionsOf, allVersionsOf, latestVersion, nextVersion, handOversOf, trialsOf, triedAt },
    ...{ paletteOf, languageOf, isPage, isWithinPages, popUpOf },
  }
}
export type WorkspaceTables = ReturnType<typeof useWorkspaceTables>

export function byName<T extends { name: string }>(all: readonly T[]): T[] {
  return [...all].sort((one, other) => one.name.localeCompare(other.name))
}
