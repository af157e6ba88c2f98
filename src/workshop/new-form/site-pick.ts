import { computed, reactive, ref, watch } from 'vue'
import { codeReachProblem } from '#core/embed'
import { addressProblem, completedAddress, isLoopback, type Site, type SiteKind } from '#core/site'
import { useWorkspace } from '../data'
import { useSiteReading } from '../sites/reading'
import { useReceiver } from '../sync'
import { NEW, onlyOne } from './list-pick'

/** The site that a new form will sit on, with what is known of it so far. */
export function useSitePick() {
  const workspace = useWorkspace()
  const receiver = useReceiver()
  const colours = useSiteReading()

  const chosenKey = ref<string | null>(null)
  const key = computed({
    get: () => chosenKey.value ?? (onlyOne(workspace.sites) || fullestOfNewest(workspace)),
    set: (key) => (chosenKey.value = key),
  })
  const name = ref('')
  const typedAddress = ref('')
  const chosenKind = ref<SiteKind | ''>('')
  /** What a new site is built with: as its owner says, else as its page does. */
  const kind = computed({
    get: () => chosenKind.value || (colours.kind.value ?? ''),
    set: (kind) => (chosenKind.value = kind),
  })
  const isKindSeen = computed(() => chosenKind.value === '' && colours.kind.value !== null)

  const chosen = computed(() => workspace.sites.find(({ id }) => id === key.value))
  /** The site as it is told so far: the chosen one, or the new one where its address can be read. */
  const built = computed(() => chosen.value ?? (key.value === NEW ? { kind: kind.value || ('other' as const) } : null))
  const language = computed(() => (chosen.value ? workspace.languageOf(chosen.value.id) : 'en'))

  const address = computed(() => (key.value === NEW ? typedAddress.value : (chosen.value?.address ?? '')))
  /** Reads the site's colours once its address is whole, where they are not known. */
  function readColours(): void {
    if (chosen.value?.palette) return
    void colours.read(completedAddress(address.value))
  }
  watch(key, readColours)
  const palette = computed(() => chosen.value?.palette ?? colours.reading.value?.palette ?? null)

  /** Why visitors of that site could not reach the receiver, or null. */
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
    () => pretendSites.value.find((one) => one.kind === built.value?.kind) ?? pretendSites.value[0] ?? null,
  )
  const isTried = ref(false)

  const problems = computed(() => ({
    site: key.value === '' ? 'Choose the site that it will sit on.' : '',
    siteName: key.value === NEW && name.value.trim() === '' ? 'Give the site a name.' : '',
    siteAddress: key.value === NEW ? (addressProblem(typedAddress.value) ?? '') : '',
  }))

  return reactive({
    ...{ key, name, address: typedAddress, kind, isKindSeen, chosen, built, language },
    ...{ colours, readColours, palette, reach, pretend, isTried, problems },
  })
}
export type SitePick = ReturnType<typeof useSitePick>

/** Who makes another form most often makes it for the same site: the one that got a spot last, of several the fullest. */
function fullestOfNewest(workspace: ReturnType<typeof useWorkspace>): string {
  const spots = workspace.spots.filter(({ site: id }) => workspace.site(id) !== null)
  const newest = spots.reduce((latest, { createdAt }) => (createdAt > latest ? createdAt : latest), '')
  const many = (id: string) => spots.filter((spot) => spot.site === id).length
  const ofThem = spots.filter(({ createdAt }) => createdAt === newest).map((spot) => spot.site)
  return ofThem.toSorted((one, other) => many(other) - many(one))[0] ?? ''
}
