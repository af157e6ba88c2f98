import { defineStore } from 'pinia'
import { computed } from 'vue'
import { type Form, type FormContent, startContent, type Version } from '#core/form'
import type { FormId, ListId, SiteId, SpotId } from '#core/ids'
import { type List, startList } from '#core/list'
import type { Site, SiteKind } from '#core/site'
import type { Spot, SpotKind } from '#core/spot'
import { publishedOf } from '#core/workspace'
import { database, useLive } from '../db'
import { type Client, clientFor, ReceiverProblem, takePublished } from '../exchange'
import { newId, now } from '../moment'
import { useReceiver } from './receiver'

/** Everything the owner makes: small, so all of it is at hand. Every action is saved when its promise resolves. */
export const useWorkspace = defineStore('workspace', () => {
  const all = useLive(
    async () => ({
      isLoaded: true,
      sites: await database.sites.toArray(),
      lists: await database.lists.toArray(),
      forms: await database.forms.toArray(),
      versions: await database.versions.toArray(),
      spots: await database.spots.toArray(),
    }),
    { isLoaded: false, sites: [] as Site[], lists: [] as List[], forms: [] as Form[], versions: [] as Version[], spots: [] as Spot[] },
  )
  const isLoaded = computed(() => all.value.isLoaded)
  const sites = computed(() => byName(all.value.sites))
  const lists = computed(() => byName(all.value.lists))
  const forms = computed(() => [...all.value.forms].sort((one, other) => other.createdAt.localeCompare(one.createdAt)))

  const site = (id: SiteId) => all.value.sites.find((one) => one.id === id) ?? null
  const list = (id: ListId) => all.value.lists.find((one) => one.id === id) ?? null
  const form = (id: FormId) => all.value.forms.find((one) => one.id === id) ?? null
  const spot = (id: SpotId) => all.value.spots.find((one) => one.id === id) ?? null
  const spotsOf = (id: FormId) => all.value.spots.filter((one) => one.form === id)
  const versionsOf = (id: FormId) => all.value.versions.filter((one) => one.form === id)
  const latestVersion = (id: FormId): Version | null =>
    versionsOf(id).reduce<Version | null>((best, one) => (best === null || one.number > best.number ? one : best), null)

  async function makeSite(facts: { name: string; address: string; kind: SiteKind }): Promise<Site> {
    const made: Site = { id: newId<SiteId>(), ...facts, createdAt: now() }
    await database.sites.add(made)
    return made
  }

  async function makeList(name: string): Promise<List> {
    const made = startList(newId<ListId>(), name, now())
    await database.lists.add(made)
    return made
  }

  /** A form with its first spot. */
  async function makeForm(facts: { name: string; list: List; site: Site; kind: SpotKind; page: string }): Promise<Form> {
    const made: Form = { id: newId<FormId>(), name: facts.name, list: facts.list.id, draft: startContent(facts.list.name), createdAt: now() }
    await database.transaction('rw', database.forms, database.spots, async () => {
      await database.forms.add(made)
      await makeSpot(made.id, facts)
    })
    // From now on there is something to lose: ask the browser to keep it. It may refuse; Settings tells.
    void navigator.storage?.persist?.()
    return made
  }

  async function makeSpot(formId: FormId, facts: { site: Site; kind: SpotKind; page: string }): Promise<Spot> {
    const made: Spot = { id: newId<SpotId>(), form: formId, site: facts.site.id, kind: facts.kind, page: facts.page, state: 'live', createdAt: now() }
    await database.spots.add(made)
    return made
  }

  const saveDraft = (id: FormId, draft: FormContent) => database.forms.update(id, { draft })
  const renameForm = (id: FormId, name: string) => database.forms.update(id, { name })
  const changeSite = (id: SiteId, changes: Partial<Pick<Site, 'name' | 'address' | 'kind'>>) => database.sites.update(id, changes)
  const changeList = (id: ListId, changes: Partial<Pick<List, 'name' | 'why'>>) => database.lists.update(id, changes)
  const changeSpot = (id: SpotId, changes: Partial<Pick<Spot, 'page' | 'state'>>) => database.spots.update(id, changes)

  /** Publishes the draft as the next version, and with it all that the receiver needs to know of its surroundings. */
  async function publish(id: FormId): Promise<Version> {
    try {
      return await publishNext(id)
    } catch (error) {
      if (!(error instanceof ReceiverProblem) || error.code !== 'version-taken') throw error
      // Another browser has published meanwhile. Its version is taken in and kept; this draft becomes the one after.
      await takePublished(client())
      return await publishNext(id)
    }
  }

  async function publishNext(id: FormId): Promise<Version> {
    const [draft, versions] = await Promise.all([database.forms.get(id), database.versions.where('form').equals(id).toArray()])
    if (draft === undefined) throw new Error('This form does not exist any more.')
    const number = Math.max(0, ...versions.map((version) => version.number)) + 1
    const version: Version = { form: id, number, list: draft.list, content: draft.draft, publishedAt: now() }
    await send(id, [version])
    await database.versions.put(version)
    return version
  }

  /** Tells the receiver about changes around a published form, such as a retired spot. */
  async function publishSurroundings(id: FormId): Promise<void> {
    if (versionsOf(id).length > 0) await send(id, [])
  }

  async function send(id: FormId, more: Version[]): Promise<void> {
    const parts = {
      sites: await database.sites.toArray(),
      lists: await database.lists.toArray(),
      forms: await database.forms.where('id').equals(id).toArray(),
      versions: [...(await database.versions.where('form').equals(id).toArray()), ...more],
      spots: await database.spots.where('form').equals(id).toArray(),
    }
    await client().publish(publishedOf(parts))
  }

  function client(): Client {
    const { pairing } = useReceiver()
    if (pairing === null) throw new Error('The workshop is not paired with a receiver.')
    return clientFor(pairing)
  }

  return {
    isLoaded,
    sites,
    lists,
    forms,
    site,
    list,
    form,
    spot,
    spotsOf,
    versionsOf,
    latestVersion,
    makeSite,
    makeList,
    makeForm,
    makeSpot,
    saveDraft,
    renameForm,
    changeSite,
    changeList,
    changeSpot,
    publish,
    publishSurroundings,
  }
})

function byName<T extends { name: string }>(all: readonly T[]): T[] {
  return [...all].sort((one, other) => one.name.localeCompare(other.name))
}
