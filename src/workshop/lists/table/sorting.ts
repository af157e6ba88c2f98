import { computed, ref } from 'vue'
import type { List, Sort } from '#core/list'
import { spotName } from '#core/spot'
import { useWorkspace } from '../../data'

/** What a table of people is sorted by. Chosen in a menu as well as in the head, which the Tab key reaches after all of the rows. */
export function useSorting(list: () => List) {
  const workspace = useWorkspace()
  /** `since down`: by what, and which way. */
  const order = ref<string>('since down')
  const spotsByName = computed(() =>
    workspace.spots
      .map((spot) => ({ id: spot.id, name: spotName(spot, workspace.sites) }))
      .sort((one, other) => one.name.localeCompare(other.name))
      .map(({ id }) => id),
  )
  const sort = computed((): Sort => {
    const [, by = 'since', way] = /^(.*) (up|down)$/.exec(order.value) ?? []
    return {
      by: by as Sort['by'],
      isDescending: way === 'down',
      ...(by === 'spot' && { spots: spotsByName.value }),
    }
  })
  return {
    order,
    sort,
    orders: computed(() => [
      { value: 'since down', label: 'Newest first' },
      { value: 'since up', label: 'Oldest first' },
      { value: 'email up', label: 'By address' },
      { value: 'status up', label: 'By status' },
      { value: 'tags up', label: 'By tags' },
      { value: 'spot up', label: 'By spot' },
      { value: 'page up', label: 'By page' },
      ...list().columns.map(({ key, label }) => ({ value: `column ${key} up`, label: `By ${label}` })),
      ...(/^(since|.* up$)/.test(order.value) ? [] : [{ value: order.value, label: 'The other way round' }]),
    ]),
    isSortable: (key: string) =>
      ['email', 'status', 'tags', 'since', 'spot', 'page'].includes(key) || key.startsWith('column '),
    sortBy(key: string): void {
      const isSame = sort.value.by === key
      // What came last is looked for first; words from their beginning.
      const isDescending = isSame ? !sort.value.isDescending : key === 'since'
      order.value = `${key} ${isDescending ? 'down' : 'up'}`
    },
  }
}
