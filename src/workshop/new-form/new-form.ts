import { computed, reactive, ref, shallowRef, watch, watchEffect } from 'vue'
import { codeReachProblem, popUpProblem } from '#core/embed'
import { type Form, shapeForSpot, shapeOf, shapesFor, withoutMessage } from '#core/form'
import { quietPalette } from '#core/look'
import { addressProblem, completedAddress, isLoopback, type Site, type SiteKind } from '#core/site'
import { type PopUp, type SpotKind, startPopUp, suggestFormName } from '#core/spot'
import { useWorkspace } from '../data'
import { useSiteReading } from '../sites/reading'
import { useReceiver } from '../sync'
import { useDirectForm } from './direct-form'

/** Stands in the choices for what is made with the form. */
export const NEW = 'new'

/** All that is wished for a new form, what is wrong with it, and how it is made. */
export function useWishes() {
  const workspace = useWorkspace()
  const receiver = useReceiver()

  // Of lists, what there is one of is chosen already; between several only the owner knows.
  const chosenKeys = reactive({ list: null as string | null, site: null as string | null })
  const only = (all: readonly { id: string }[]) => (all.length === 0 ? NEW : all.length === 1 ? all[0]!.id : '')
  const list = computed({
    get: () => chosenKeys.list ?? only(workspace.lists),
    set: (key) => (chosenKeys.list = key),
  })
  const site = computed({
    get: () => chosenKeys.site ?? (only(workspace.sites) || lastUsed.value),
    set: (key) => (chosenKeys.site = key),
  })
  /** Who makes another form most often makes it for the same site: the one that got a spot last, of several the fullest. */
  const lastUsed = computed(() => {
    const spots = workspace.spots.filter(({ site: id }) => workspace.site(id) !== null)
    const newest = spots.reduce((latest, { createdAt }) => (createdAt > latest ? createdAt : latest), '')
    const many = (id: string) => spots.filter((spot) => spot.site === id).length
    const ofThem = spots.filter(({ createdAt }) => createdAt === newest).map((spot) => spot.site)
    return ofThem.toSorted((one, other) => many(other) - many(one))[0] ?? ''
  })
  const listName = ref('')
  const siteName = ref('')
  const siteAddress = ref('')
  const chosenKind = ref<SiteKind | ''>('')
  const page = ref('')
  const name = ref('')
  const isNameOwn = ref(false)
  const kind = ref<SpotKind>('inline')
  // Shallow: what lies inside a deep proxy could not be stored.
  const popUp = shallowRef<PopUp>(startPopUp)
  const shape = ref('')
  const hasTried = ref(false)
  /** A form that its owner has already. */
  const direct = useDirectForm()

  const colours = useSiteReading()
  /** What a new site is built with: as its owner says, else as its page does. */
  const siteKind = computed({
    get: () => chosenKind.value || (colours.kind.value ?? ''),
    set: (kind) => (chosenKind.value = kind),
  })
  const isKindSeen = computed(() => chosenKind.value === '' && colours.kind.value !== null)

  const chosenList = computed(() => workspace.lists.find(({ id }) => id === list.value))
  const chosenSite = computed(() => workspace.sites.find(({ id }) => id === site.value))
  /** The site as it is told so far: the chosen one, or the new one where its address can be read. */
  const builtSite = computed(
    () => chosenSite.value ?? (site.value === NEW ? { kind: siteKind.value || ('other' as const) } : null),
  )
  const noPopUp = computed(() => (builtSite.value === null ? null : popUpProblem(builtSite.value)))

  const address = computed(() => (site.value === NEW ? siteAddress.value : (chosenSite.value?.address ?? '')))
  /** Reads the site's colours once its address is whole, where they are not known. */
  function readColours(): void {
    if (chosenSite.value?.palette) return
    void colours.read(completedAddress(address.value))
  }
  watch(site, readColours)
  const palette = computed(() => chosenSite.value?.palette ?? colours.reading.value?.palette ?? null)

  const reach = computed(() => {
    const typed = completedAddress(address.value)
    if (receiver.publicUrl === null || addressProblem(typed) !== null) return null
    return codeReachProblem(receiver.publicUrl, { address: typed } as Site)
  })
  const pretendSites = computed(() =>
    workspace.sites.filter((one) => addressProblem(one.address) === null && isLoopback(new URL(one.address).hostname)),
  )
  /** The pretend site that is most like the one meant. */
  const pretend = computed(
    () => pretendSites.value.find((one) => one.kind === builtSite.value?.kind) ?? pretendSites.value[0] ?? null,
  )
  const isTried = ref(false)

  /** The place was chosen first: only shapes that are made for it are there to choose. */
  const fitting = computed(() => shapesFor([kind.value]))
  const shownShape = computed(() =>
    fitting.value.some(({ key }) => key === shape.value) ? shape.value : shapeForSpot(kind.value).key,
  )
  const language = computed(() => (chosenSite.value ? workspace.languageOf(chosenSite.value.id) : 'en'))

  watchEffect(() => {
    if (!isNameOwn.value)
      name.value = suggestFormName(
        chosenSite.value?.name ?? siteName.value,
        kind.value,
        chosenList.value?.name ?? listName.value,
      )
  })
  watch(name, (value) => value === '' && (isNameOwn.value = false))

  const problems = computed(() => ({
    list: list.value === '' ? 'Choose the list that it feeds.' : '',
    listName:
      list.value === NEW && listName.value.trim() === '' ? 'Give the list a name, as its members will know it.' : '',
    site: site.value === '' ? 'Choose the site that it will sit on.' : '',
    siteName: site.value === NEW && siteName.value.trim() === '' ? 'Give the site a name.' : '',
    siteAddress: site.value === NEW ? (addressProblem(siteAddress.value) ?? '') : '',
    kind: kind.value === 'pop-up' ? (noPopUp.value ?? '') : '',
    page: page.value.trim() === '' ? '' : (addressProblem(page.value) ?? ''),
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
    siteAddress.value = completedAddress(siteAddress.value)
    page.value = completedAddress(page.value)
    if (!isComplete.value) return null
    const form = await workspace.inOneStep(makeAll)
    // What posts straight to a service has no receiver that could take a message.
    if (direct.read.value !== null)
      await workspace.changeDraft(form.id, await direct.remade(withoutMessage(form.draft)))
    return form
  }

  async function makeAll(): Promise<Form> {
    const feeds = chosenList.value ?? (await workspace.makeList(listName.value.trim()))
    const meant =
      chosenSite.value ??
      (await workspace.makeSite({
        name: siteName.value.trim(),
        address: siteAddress.value.trim(),
        kind: siteKind.value || 'other',
        palette: palette.value,
      }))
    if (meant.palette === null && palette.value !== null)
      await workspace.changeSite(meant.id, { palette: palette.value })
    const isReached = reach.value === null || direct.read.value !== null
    const tried = !isReached && isTried.value ? pretend.value : null
    return workspace.makeForm({
      name: name.value.trim(),
      list: feeds,
      site: tried ?? meant,
      ...(tried !== null && { meant: meant.id }),
      kind: kind.value,
      page: kind.value === 'landing' || tried !== null ? '' : page.value.trim(),
      palette: palette.value ?? quietPalette,
      ...(kind.value === 'pop-up' && { popUp: popUp.value }),
      shape: shapeOf(shownShape.value) ?? undefined,
    })
  }

  return {
    list,
    site,
    listName,
    siteName,
    siteAddress,
    siteKind,
    page,
    name,
    isNameOwn,
    kind,
    popUp,
    chosenSite,
    noPopUp,
    colours,
    readColours,
    palette,
    reach,
    pretend,
    isTried,
    shownShape,
    language,
    shape,
    fitting,
    isKindSeen,
    told,
    direct,
    make,
  }
}
