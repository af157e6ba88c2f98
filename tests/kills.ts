import type { ChildProcess } from 'node:child_process'
import { end, type RunningBox } from './programs'

/** A program that is killed, and started again in the same place. */
interface Victim {
  process(): ChildProcess
  restart(): Promise<void>
}
export const receiverOf = (box: RunningBox): Victim => ({ process: () => box.receiver, restart: () => box.restart() })
export const servicesOf = (box: RunningBox): Victim => ({
  process: () => box.services!,
  restart: () => box.restartServices(),
})

/**
 * Kills programs in turn, at moments of chance: each within so many milliseconds of when enough was done since the one
 * before, on however slow a machine.
 *
 * @param done how much was done so far
 * @param enough how much more before a kill
 */
export async function killOften(
  many: number,
  victims: readonly Victim[],
  { done, enough, withinMs }: { done: () => number; enough: (kill: number) => number; withinMs: number },
): Promise<void> {
  for (let kill = 0; kill < many; kill += 1) {
    const before = done()
    while (done() < before + enough(kill)) await shortly()
    const victim = victims[kill % victims.length]!
    await end(victim.process(), 'SIGKILL', Math.random() * withinMs)
    await victim.restart()
  }
}

/** Visitors who sign up one after the other at a spot, whether it answers or not, until they are told to go. */
export function comingVisitors(box: RunningBox, spot: string, visitors: number) {
  /** Addresses whose sign-up was answered with success. */
  const answered: string[] = []
  let areGoing = false
  const come = async (visitor: number) => {
    for (let at = 0; !areGoing; at += 1) {
      const email = `came-${visitor}-${at}@post.example`
      const response = await fetch(`${box.workshop}/join/${spot}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/x-www-form-urlencoded', Accept: 'application/json' },
        body: `email=${encodeURIComponent(email)}&askbox-version=2`,
      }).catch(() => null)
      if (response?.status === 200) answered.push(email)
      else await shortly()
    }
  }
  const all = Promise.all(Array.from({ length: visitors }, (_, visitor) => come(visitor)))
  return {
    answered,
    async go(): Promise<void> {
      areGoing = true
      await all
    },
  }
}

/** Until something changed that nobody tells of. */
const shortly = () => new Promise((resolve) => setTimeout(resolve, 5))
