import { computed, type Ref, shallowRef, watch } from 'vue'
import type { MemberId } from '#core/ids'
import type { Wanted } from '#core/list'

/** Rows that are chosen: some, or all who are found but some, seen or not. */
export function useChosen(wanted: () => Wanted, total: Readonly<Ref<number | null>>) {
  const isAll = shallowRef(false)
  /** Those that are chosen; of all, those that are not. */
  const ids = shallowRef<ReadonlySet<MemberId>>(new Set())

  const clear = () => {
    isAll.value = false
    ids.value = new Set()
  }
  // Others are found: what was chosen is out of sight.
  watch(
    () => JSON.stringify({ ...wanted(), sort: null }),
    () => clear(),
  )

  const count = computed(() => (isAll.value ? Math.max(0, (total.value ?? 0) - ids.value.size) : ids.value.size))
  return {
    count,
    isEverybody: computed(() => isAll.value && ids.value.size === 0),
    has: (id: MemberId) => ids.value.has(id) !== isAll.value,
    toggle(id: MemberId): void {
      const changed = new Set(ids.value)
      if (!changed.delete(id)) changed.add(id)
      ids.value = changed
    },
    toggleAll(): void {
      isAll.value = count.value === 0
      ids.value = new Set()
    },
    clear,
    /** Who they are. */
    wanted: (): Wanted => ({ ...wanted(), ...(isAll.value ? { except: [...ids.value] } : { only: [...ids.value] }) }),
  }
}
export type Chosen = ReturnType<typeof useChosen>
