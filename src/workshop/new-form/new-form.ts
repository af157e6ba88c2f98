import { computed, ref, watch, watchEffect } from 'vue'
import { type Form, shapeOf, withoutMessage } from '#core/form'
import { quietPalette } from '#core/look'
import { completedAddress } from '#core/site'
import { suggestFormName } from '#core/spot'
import { useWorkspace } from '../data'
import { useDirectForm } from './direct-form'
import { useListPick } from './list-pick'
import { usePlacePick } from './place-pick'
import { useSitePick } from './site-pick'

/** What is chosen for a new form, what is wrong with it, and how it is made. */
export function useNewForm(givenList: string | null) {
  const workspace = useWorkspace()
  const list = useListPick(givenList)
  const site = useSitePick()
  const place = usePlacePick(site)
  /** A form that its owner has already. */
  const direct = useDirectForm()

  const name = ref('')
  const isNameOwn = ref(false)
  watchEffect(() => {
    if (!isNameOwn.value)
      name.value = suggestFormName(site.chosen?.name ?? site.name, place.kind, list.chosen?.name ?? list.name)
  })
  watch(name, (value) => value === '' && (isNameOwn.value = false))

  const hasTried = ref(false)
  const problems = computed(() => ({
    ...list.problems,
    ...site.problems,
    ...place.problems,
    name: name.value.trim() === '' ? 'The form needs a name.' : '',
    // What was pasted and not read does not become an ordinary form unasked.
    own: direct.isUnread.value
      ? 'The form that you pasted has not been read. Read it, or say that the new form is made without it.'
      : '',
  }))
  const told = computed(() => (hasTried.value ? problems.value : null))
  const isComplete = computed(() => Object.values(problems.value).every((problem) => problem === ''))

  /** Null where something is missing, which `told` then says. */
  async function make(): Promise<Form | null> {
    hasTried.value = true
    // With Enter in a field, nothing has left it yet.
    site.address = completedAddress(site.address)
    place.page = completedAddress(place.page)
    if (!isComplete.value) return null
    const form = await workspace.inOneStep(makeAll)
    // What posts straight to a service has no receiver that could take a message.
    if (direct.read.value !== null)
      await workspace.changeDraft(form.id, await direct.remade(withoutMessage(form.draft)))
    return form
  }

  async function makeAll(): Promise<Form> {
    const { palette } = site
    const feeds = list.chosen ?? (await workspace.makeList(list.name.trim()))
    const meant =
      site.chosen ??
      (await workspace.makeSite({
        name: site.name.trim(),
        address: site.address.trim(),
        kind: site.kind || 'other',
        palette,
      }))
    if (meant.palette === null && palette !== null) await workspace.changeSite(meant.id, { palette })
    const isReached = site.reach === null || direct.read.value !== null
    const tried = !isReached && site.isTried ? site.pretend : null
    return workspace.makeForm({
      name: name.value.trim(),
      list: feeds,
      site: tried ?? meant,
      ...(tried !== null && { meant: meant.id }),
      kind: place.kind,
      page: place.kind === 'landing' || tried !== null ? '' : place.page.trim(),
      palette: palette ?? quietPalette,
      ...(place.kind === 'pop-up' && { popUp: place.popUp }),
      shape: shapeOf(place.shownShape) ?? undefined,
    })
  }

  return { list, site, place, direct, name, isNameOwn, told, make }
}
export type ShownProblems = ReturnType<typeof useNewForm>['told']['value']
