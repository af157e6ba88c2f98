import type { BatchProgress } from '#core/api'
import type { BatchId, ListId } from '#core/ids'
import type { MemberChange } from '#core/journal'
import type { List, Wanted } from '#core/list'
import { queuedCommands } from '../data'
import { useNotices } from '../notices'
import { useReceiver } from '../sync'
import type { LongWork } from './long-work'
import { type Settled, useMembers } from '../people'
import type { Task } from '../worker-calls'
import { peopleCount } from './people-count'

const LOOK_EVERY_MS = 100
/** Some ten seconds. */
const MOST_LOOKS = 100

/** Changes many people as one: told while it goes on, stopped and undone as one. */
export function useBatchChanges(work: LongWork) {
  const members = useMembers()
  const receiver = useReceiver()
  const notices = useNotices()

  const run = <Result>(what: string, task: (task: Task) => Promise<Result>) => work.run(what, task, true)

  /** Many are changed by the receiver alone, so it has to be there. */
  function pairing() {
    if (receiver.pairing === null) throw new Error('Changing many people needs the receiver, which is not connected.')
    return { ...receiver.pairing }
  }

  /** What was changed one by one goes first: a batch is decided on everybody as the receiver has them. */
  async function whenSent(list: ListId | null): Promise<void> {
    for (let looks = 0; looks < MOST_LOOKS; looks += 1) {
      const waiting = (await queuedCommands()).filter(({ command }) => list === null || command.list === list)
      if (waiting.length === 0) return
      await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS))
    }
    throw new Error('Changes to people are still on their way to the receiver. Try again once they are sent.')
  }

  /** @param undone batches that are put back together, the last one first */
  function tell(done: string, { counts, state }: BatchProgress, undone: readonly BatchId[] = []): void {
    const same = counts.same > 0 ? ` ${peopleCount(counts.same)} had it so already.` : ''
    const passed =
      counts.passedOver > 0 ? ` ${peopleCount(counts.passedOver)} changed meanwhile and stay as they are.` : ''
    const stopped = state === 'stopped' ? ' It was stopped there.' : ''
    const words = `${peopleCount(counts.done)} ${done}.${same}${passed}${stopped}`
    const undoAll = async () => {
      for (const batch of undone.toReversed()) await undo(batch)
    }
    notices.done(words, undone.length > 0 && counts.done > 0 ? undoAll : undefined)
  }

  /** Who is found now, as ids: exactly they are changed, whoever joins meanwhile. Null where it failed, which is told. */
  async function settle(wanted: Wanted): Promise<SettledPeople | null> {
    try {
      await whenSent(wanted.list)
      return await members.ask('settle', wanted)
    } catch (error) {
      notices.problem(error instanceof Error ? error.message : String(error))
      return null
    }
  }

  function changeUntold({ people, count }: SettledPeople, change: MemberChange): Promise<BatchProgress | null> {
    const [doing] = changeWords(change)
    return run(`${doing}: ${peopleCount(count)}`, (following) =>
      members.work('change', following, pairing(), people, change),
    )
  }

  async function change(chosen: SettledPeople, change: MemberChange): Promise<void> {
    const progress = await changeUntold(chosen, change)
    if (progress !== null) tell(changeWords(change)[1], progress, [progress.id])
  }

  /** @param isMove whether they are taken off here once they are there */
  async function copy(chosen: SettledPeople, target: List, isMove: boolean): Promise<void> {
    const progress = await run(`Bringing ${peopleCount(chosen.count)} to “${target.name}”`, (following) =>
      members.work('copy', following, pairing(), chosen.people, { ...target }),
    )
    if (progress === null) return
    const removal = isMove && progress.state === 'done' ? await changeUntold(chosen, { kind: 'remove' }) : null
    tell(`${removal === null ? 'brought' : 'moved'} to “${target.name}”`, progress, [
      progress.id,
      ...(removal === null ? [] : [removal.id]),
    ])
  }

  /** Everybody with one tag gets another in its place. */
  async function renameTag(wanted: Wanted, tag: string, other: string): Promise<void> {
    const chosen = await settle(wanted)
    const given = chosen === null ? null : await changeUntold(chosen, { kind: 'tag', tag: other })
    if (chosen === null || given === null) return
    const taken = given.state === 'done' ? await changeUntold(chosen, { kind: 'untag', tag }) : null
    tell(`tagged “${other}” in place of “${tag}”`, taken ?? given, [given.id, ...(taken === null ? [] : [taken.id])])
  }

  async function undo(batch: BatchId): Promise<BatchProgress | null> {
    const progress = await run('Putting back what was', async (following) => {
      await whenSent(null)
      return members.work('undo', following, pairing(), batch)
    })
    if (progress !== null) tell('are as before', progress)
    return progress
  }

  /** For good: nothing brings it back. */
  function erase({ people, count }: SettledPeople): Promise<BatchProgress | null> {
    return run(`Erasing ${peopleCount(count)} everywhere`, (following) =>
      members.work('erase', following, pairing(), people),
    )
  }

  return { settle, change, copy, renameTag, undo, erase, pairing }
}

/** People who were chosen, with how many they are. */
export interface SettledPeople {
  people: Settled
  count: number
}

/** What a change does, while it goes on and when it is done. */
export function changeWords(change: MemberChange): [doing: string, done: string] {
  switch (change.kind) {
    case 'tag':
      return [`Tagging “${change.tag}”`, `tagged “${change.tag}”`]
    case 'untag':
      return [`Taking off the tag “${change.tag}”`, `no longer tagged “${change.tag}”`]
    case 'set':
      return change.value === '' ? ['Emptying a column', 'changed'] : [`Setting “${change.value}”`, 'changed']
    case 'remove':
      return ['Taking off the list', 'taken off the list']
    case 'restore':
      return ['Putting back on the list', 'back on the list']
    case 'withdraw':
      return ['Taking back', 'taken back']
  }
}
