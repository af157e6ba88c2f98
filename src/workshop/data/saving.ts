import { computed, shallowRef } from 'vue'
import { database } from './database'

const AGAIN_MS = 2_000

/*
 * Writes that have to succeed. The browser's database can refuse one: no room, or closed by a newer version in another
 * tab. Then the owner is told at once, what was to be written stays in hand, and it is tried again until it is kept.
 */

const failed = shallowRef(new Map<string, { write: () => Promise<void>; reason: string }>())
let timer: ReturnType<typeof setTimeout> | undefined

/** Why something is not kept; null while everything is. */
export const savingProblem = computed(() => [...failed.value.values()][0]?.reason ?? null)

/**
 * @param name what is written; a later write of the same name takes the place of an earlier one
 * @param write writes what is in hand when it is called
 * @returns a promise that never rejects; it resolves when the first try is over
 */
export async function keepSaved(name: string, write: () => Promise<void>): Promise<void> {
  try {
    await write()
    if (failed.value.has(name)) failed.value = new Map([...failed.value].filter(([other]) => other !== name))
  } catch (error) {
    console.error(error)
    failed.value = new Map(failed.value).set(name, { write, reason: reasonOf(error) })
    timer ??= setTimeout(() => void saveAgain(), AGAIN_MS)
  }
}

/** Tries now what was refused. */
export async function saveAgain(): Promise<void> {
  clearTimeout(timer)
  timer = undefined
  // Closed by an upgrade elsewhere, or by the browser: it can be opened again.
  if (!database.isOpen()) await database.open().catch(() => {})
  for (const [name, { write }] of failed.value) await keepSaved(name, write)
}

function reasonOf(error: unknown): string {
  const name = nameOf(error)
  if (name.includes('QuotaExceeded'))
    return 'this browser has no room left. Free some on this computer, or in Settings save everything as a file and close other sites'
  if (name.includes('DatabaseClosed') || name.includes('VersionError'))
    return 'another tab has opened a newer Ask Box. Copy what you are writing if it does not go through, then reload this page'
  return error instanceof Error ? error.message : 'the browser gave no reason'
}

/** Dexie gives the browser's own error as `inner`. */
function nameOf(error: unknown): string {
  const { name = '', inner } = (error ?? {}) as { name?: string; inner?: { name?: string } }
  return `${name} ${inner?.name ?? ''}`
}
