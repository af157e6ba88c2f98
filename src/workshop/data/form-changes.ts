import { codeAdvice } from '#core/embed'
import {
  columnsLacking,
  type Form,
  type FormContent,
  type Shape,
  shapeForSpot,
  startContent,
  withOwner,
} from '#core/form'
import type { FormId, ListId, SiteId, SpotId } from '#core/ids'
import type { Column, List } from '#core/list'
import { type Palette, quietPalette } from '#core/look'
import { ownersAddress } from '#core/mail'
import type { Site } from '#core/site'
import type { PopUp, Spot, SpotKind } from '#core/spot'
import { newId, now } from '../clock'
import { database } from './database'
import type { WorkspaceTables } from './workspace-tables'

/** What is done to forms and their spots. */
export function formChanges(
  tables: WorkspaceTables,
  addColumns: (id: ListId, columns: readonly Column[]) => PromiseLike<unknown>,
) {
  const { form, spot, mail, spotsOf, trialsOf, languageOf } = tables

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
  const renameForm = (id: FormId, name: string) => database.forms.update(id, { name })
  /** What a form that was just made becomes. */
  const changeDraft = (id: FormId, draft: FormContent) => database.forms.update(id, { draft })
  const changeSpot = (id: SpotId, changes: Partial<Omit<Spot, 'id' | 'form' | 'createdAt'>>) =>
    database.spots.update(id, {
      ...changes,
      ...(changes.state !== undefined && changes.state !== spot(id)?.state && { stateAt: now() }),
    })

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

  return { makeForm, makeSpot, feedList, renameForm, changeDraft, changeSpot, duplicateForm, archiveForm, deleteForm }
}
