import { newId } from '../random'
import type { Engine } from '../subjects'

/** How long a turn lasts that nobody renews: the time for which a lane stands still when its receiver is killed. */
export const TURN_MS = 15_000
/** Renewed so early; also what the clocks of two machines may differ by. */
const RENEWED_MS = TURN_MS / 2

interface Kept {
  holder: string
  until: number
}

/**
 * What one of the receivers that share a store does at a time: a lease with a name. Whoever works off a lane has its turn,
 * so that pace, order and what a target said last are known in one place. Where a store is held by one process alone, its
 * turn is always that one's.
 */
export interface Turn {
  /** Takes it, or keeps it; false where another receiver has it. Resolves with `taken` where it was another's before. */
  mine(): Promise<false | 'kept' | 'taken'>
  /** Lets another have it at once. */
  letGo(): Promise<void>
}

/** Whose turns: a name for this process. */
export const newHolder = () => newId<string>()

export function openTurn(engine: Engine, now: () => number, name: string, holder: string): Turn {
  const key = `turn ${name}`
  /** Until when it is surely ours; 0 for not. */
  let held = 0
  let wasAlone = false
  /** Beyond the longest it is of a clock that was set back. */
  const isOver = (kept: Kept | null) => kept === null || kept.until <= now() || kept.until > now() + 2 * TURN_MS
  return {
    async mine() {
      // Nobody else has the store, unless it is moved to where others may.
      if (!engine.isShared) {
        const turn = wasAlone ? 'kept' : 'taken'
        wasAlone = true
        return turn
      }
      if (held - RENEWED_MS > now() && held <= now() + TURN_MS) return 'kept'
      const seen = (await engine.now.value(key, 0)) as Kept | null
      if (seen !== null && seen.holder !== holder && !isOver(seen)) return false
      const until = now() + TURN_MS
      const before = await engine.run(async (transaction) => {
        const kept = (await transaction.value(key, 0)) as Kept | null
        if (kept !== null && kept.holder !== holder && !isOver(kept)) return false
        await transaction.keepValue(key, { holder, until } satisfies Kept, null)
        return kept?.holder === holder && held !== 0 ? 'kept' : 'taken'
      })
      held = before === false ? 0 : until
      return before
    },
    async letGo() {
      if (held === 0) return
      held = 0
      await engine.run(async (transaction) => {
        const kept = (await transaction.value(key, 0)) as Kept | null
        if (kept?.holder === holder) await transaction.dropValue(key)
      })
    },
  }
}

/**
 * Does something that only one receiver may do at a time; others wait for it, at most so long.
 *
 * @throws Error where another has it for longer
 */
export async function inTurn<T>(turn: Turn, longestMs: number, work: () => Promise<T>): Promise<T> {
  const end = performance.now() + longestMs
  while ((await turn.mine()) === false) {
    if (performance.now() > end) throw new Error('Another receiver is still at it.')
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  try {
    return await work()
  } finally {
    await turn.letGo()
  }
}
