import { hasPassed } from '../clock'
import type { Engine, Transaction } from '../subjects'

/** Single values by name, the same for all processes. */
export interface Values {
  value(name: string): Promise<unknown>
  named(beginning: string): Promise<{ name: string; value: unknown }[]>
  keep(name: string, value: unknown, until?: number | null): Promise<void>
  /** Changes a value atomically; undefined deletes it. Resolves with the new value. */
  change<T>(name: string, changed: (before: T | null) => T | undefined, until?: number | null): Promise<T | null>
  drop(name: string): Promise<void>
}

const PRUNE_EVERY_MS = 60_000

export function openValues(engine: Engine, now: () => number): Values {
  let prunedAt = 0
  async function prune(transaction: Transaction): Promise<void> {
    if (!hasPassed(prunedAt, PRUNE_EVERY_MS, now())) return
    prunedAt = now()
    await transaction.forgetValues(now())
  }
  return {
    value: (name) => engine.now.value(name, now()),
    named: (beginning) => engine.now.valuesNamed(beginning, now()),
    keep: (name, value, until = null) =>
      engine.run(async (transaction) => {
        await transaction.keepValue(name, value, until)
        await prune(transaction)
      }),
    change: (name, changed, until = null) =>
      engine.run(async (transaction) => {
        const before = await transaction.value(name, now())
        const after = changed(before as Parameters<typeof changed>[0])
        if (after === undefined) await transaction.dropValue(name)
        else await transaction.keepValue(name, after, until)
        await prune(transaction)
        return after ?? null
      }),
    drop: (name) => engine.run((transaction) => transaction.dropValue(name)),
  }
}
