import { defineStore } from 'pinia'
import { computed } from 'vue'
import type { FormContent, Theme } from '#core/form'
import type { FormId, ThemeId } from '#core/ids'
import type { Look } from '#core/look'
import { newId } from '../clock'
import { database } from './database'
import { BY_THEME, draftTables, writeDraft } from './drafts'
import { useLive } from './live'
import { byName } from './workspace-tables'
import { useWorkspace } from './workspace'

/** Looks under a name, and the forms that share them. */
export const useThemes = defineStore('themes', () => {
  const workspace = useWorkspace()
  const all = useLive(() => database.themes.toArray(), [] as Theme[])
  const themes = computed(() => byName(all.value))
  const theme = (id: ThemeId | null) => all.value.find((one) => one.id === id) ?? null
  const formsWith = (id: ThemeId) => workspace.forms.filter((one) => one.theme === id)

  async function makeTheme(name: string, look: Look): Promise<Theme> {
    const made: Theme = { id: newId<ThemeId>(), name, look }
    await database.themes.add(made)
    return made
  }

  /** Gives a theme another look, and with it the drafts of all forms that share it. */
  async function changeTheme(id: ThemeId, look: Look): Promise<void> {
    await database.transaction('rw', draftTables('form'), async () => {
      await database.themes.update(id, { look })
      for (const { id: form, draft } of await database.forms.filter((kept) => kept.theme === id).toArray()) {
        await writeDraft('form', form, { draft: dressedIn(look, draft), theme: id }, { by: BY_THEME })
      }
    })
  }

  /** Has forms wear a theme. Resolves with what gives each its look of before, and leaves the rest as it is by then. */
  async function dress(forms: readonly FormId[], { id, look }: Theme): Promise<() => Promise<void>> {
    const read = async () => (await database.forms.bulkGet([...forms])).filter((form) => form !== undefined)
    const before = new Map<FormId, { look: Look; theme: ThemeId | null }>()
    await database.transaction('rw', draftTables('form'), async () => {
      for (const { id: form, draft, theme } of await read()) {
        before.set(form, { look: draft.look, theme })
        await writeDraft('form', form, { draft: dressedIn(look, draft), theme: id }, { by: BY_THEME })
      }
    })
    return () =>
      database.transaction('rw', draftTables('form'), async () => {
        for (const { id: form, draft } of await read()) {
          const { look, theme } = before.get(form)!
          await writeDraft('form', form, { draft: dressedIn(look, draft), theme }, { by: BY_THEME })
        }
      })
  }

  /** Forgets a theme; its forms keep their look as their own. Resolves with what brings it back. */
  async function deleteTheme(id: ThemeId): Promise<() => Promise<void>> {
    const stored = theme(id)
    const shared = formsWith(id).map((form) => form.id)
    const link = async (theme: ThemeId | null) => {
      for (const { id, draft } of (await database.forms.bulkGet(shared)).filter((form) => form !== undefined))
        await writeDraft('form', id, { draft, theme }, { by: BY_THEME })
    }
    await database.transaction('rw', draftTables('form'), async () => {
      await database.themes.delete(id)
      await link(null)
    })
    return () =>
      database.transaction('rw', draftTables('form'), async () => {
        if (stored !== null) await database.themes.put(stored)
        await link(id)
      })
  }

  return { themes, theme, formsWith, makeTheme, changeTheme, dress, deleteTheme }
})

/** A draft in another look; its own CSS stays its own. */
const dressedIn = (look: Look, draft: FormContent): FormContent => ({
  ...draft,
  look: { ...look, custom: draft.look.custom },
})
