import { computed, type ComputedRef, type Ref, ref, type ShallowRef, shallowRef, watch } from 'vue'
import type { ListId, MemberId } from '#core/ids'
import type { Member, Wanted } from '#core/list'
import type { QueuedCommand } from '../../data'
import { type ShownMember, useMembers } from '../../people'

/** Rows that are fetched at once: a few screens. */
const WINDOW = 150
/** More than stand in a table at once, so that no two rows in it are the same. */
const BLANKS = 300

/** Stands where a row was not fetched yet. */
const blanks = Array.from({ length: BLANKS }, (_, at) => ({
  id: `blank${at}` as MemberId,
  list: '' as ListId,
  email: { typed: '', compared: '' },
  values: {},
  status: 'waiting' as const,
  joinedAt: '',
  from: null,
  revision: 0,
  isBlank: true,
}))

/** As many blank rows as are asked for. Kept and copied, because making a million takes longer than a frame. */
function blankRows(count: number): ShownMember[] {
  for (let at = allBlanks.length; at < count; at += 1) allBlanks.push(blanks[at % BLANKS]!)
  return allBlanks.slice(0, count)
}
const allBlanks: ShownMember[] = []

export const isBlank = (member: ShownMember): boolean => 'isBlank' in member

export interface FoundRows {
  /** As many as there are, of which those around what is seen are fetched; null until anything is known. */
  rows: Readonly<ShallowRef<readonly ShownMember[] | null>>
  /** Whether everybody was looked through, so that `rows` has them all. */
  isWhole: ComputedRef<boolean>
  isEmpty: ComputedRef<boolean>
  /** Whether they are those who are wanted now, and no search is running. */
  isCurrent: ComputedRef<boolean>
  /** Tells which rows are seen. */
  see(first: number, last: number): void
}

/** Those who are wanted, kept current: fetched from the worker as far as they are seen. */
export function useFound(wanted: () => Wanted, queued: Readonly<Ref<readonly QueuedCommand[]>>): FoundRows {
  const members = useMembers()
  void members.load()
  const rows = shallowRef<readonly ShownMember[] | null>(null)
  const isWhole = ref(false)
  const asked = computed(() => JSON.stringify(wanted()))
  /** What `rows` answer. */
  const answered = ref('')
  let seen = { first: 0, last: 0 }
  let isAsking = false
  /** Asked for meanwhile: null for nothing, else whether everything may be otherwise than it was. */
  let next: boolean | null = null

  /** One question at a time: of what is typed meanwhile, only the last is looked for. */
  async function ask(isAnew: boolean): Promise<void> {
    next = isAnew || next === true
    if (isAsking) return
    isAsking = true
    try {
      while (next !== null) {
        const now = next
        next = null
        await fetchAround(now)
      }
    } finally {
      isAsking = false
    }
  }

  async function fetchAround(isAnew: boolean): Promise<void> {
    const offset = Math.max(0, Math.floor((seen.first + seen.last) / 2) - WINDOW / 2)
    const wasReady = members.isReady
    const question = asked.value
    const { members: found, total } = await members.find({ ...wanted(), offset, limit: WINDOW }, queued.value)
    // What was found is of before; something else is wanted by now.
    if (next === true) return
    // Those of late alone tell nothing of who is not among them.
    if (!wasReady && total === 0) return
    const before = rows.value
    const after = isAnew || before === null || before.length !== total ? blankRows(total) : before.slice()
    for (const [at, member] of found.entries()) after[offset + at] = member
    rows.value = after
    answered.value = question
    isWhole.value = wasReady
  }

  watch(
    asked,
    () => {
      seen = { first: 0, last: 0 }
      void ask(true)
    },
    { immediate: true },
  )
  watch([() => members.changes, queued], () => void ask(true))

  return {
    rows,
    isWhole: computed(() => isWhole.value),
    isCurrent: computed(() => isWhole.value && answered.value === asked.value),
    isEmpty: computed(() => isWhole.value && rows.value?.length === 0),
    see(first, last) {
      seen = { first, last }
      if (rows.value?.slice(first, last + 1).some(isBlank)) void ask(false)
    },
  }
}

/** The few newest who are wanted, kept current; of late alone until everybody is here. */
export function useNewest(wanted: () => Wanted | null): Readonly<ShallowRef<readonly Member[]>> {
  const members = useMembers()
  const newest = shallowRef<readonly Member[]>([])
  let asked = 0
  watch(
    [() => JSON.stringify(wanted()), () => members.changes],
    async () => {
      const mine = (asked += 1)
      const now = wanted()
      const people = now === null ? [] : (await members.find(now)).members
      if (mine === asked) newest.value = people
    },
    { immediate: true },
  )
  return newest
}
