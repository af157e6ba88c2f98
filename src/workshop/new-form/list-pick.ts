import { computed, reactive, ref } from 'vue'
import { useWorkspace } from '../data'

/** Stands in the choices for what is made with the form. */
export const NEW = 'new'

/** Of lists and sites, what there is one of is chosen already; between several only the owner knows. */
export const onlyOne = (all: readonly { id: string }[]) => (all.length === 0 ? NEW : all.length === 1 ? all[0]!.id : '')

/** The list that a new form feeds. */
/** @param given the list whose page asked for a form */
export function useListPick(given: string | null) {
  const workspace = useWorkspace()
  const chosenKey = ref(workspace.lists.some(({ id }) => id === given) ? given : null)
  const key = computed({
    get: () => chosenKey.value ?? onlyOne(workspace.lists),
    set: (key) => (chosenKey.value = key),
  })
  const name = ref('')
  const chosen = computed(() => workspace.lists.find(({ id }) => id === key.value))
  const problems = computed(() => ({
    list: key.value === '' ? 'Choose the list that it feeds.' : '',
    listName: key.value === NEW && name.value.trim() === '' ? 'Give the list a name, as its members will know it.' : '',
  }))
  return reactive({ key, name, chosen, problems })
}
export type ListPick = ReturnType<typeof useListPick>
