/*
 * Sums of how much several receivers carry, from a few figures that are measured (see several.ts). All of them write under one
 * lock, so that journal numbers are without gaps: each takes all sign-ups that wait at it, and writes them with one commit.
 */

/** Of one receiver and its database, in seconds; measured. */
export interface Figures {
  /** What a commit costs whatever is in it: ways to the server, the wait for both disks. */
  commit: number
  /** What each sign-up adds to it while the lock is held. */
  each: number
  /** What each sign-up costs a receiver outside of the lock: reading, judging, answering. */
  outside: number
}

/** Share of a commit that is waited for beside the lock: the next group begins when it is given back. */
export const perSecondUnderLock = ({ commit, each }: Figures, group: number): number => group / (commit + group * each)

/** Sign-ups a second that so many receivers take, each on cores of its own; whatever ends first is the limit. */
export function capacity(
  figures: Figures,
  receivers: number,
  mostInGroup: number,
): { perSecond: number; limit: 'receivers' | 'lock' } {
  const byReceivers = receivers / figures.outside
  const byLock = perSecondUnderLock(figures, mostInGroup)
  return byReceivers < byLock ? { perSecond: byReceivers, limit: 'receivers' } : { perSecond: byLock, limit: 'lock' }
}

/** Probability that one who comes has to wait, with `servers` and `load` erlangs (Erlang's C formula). */
export function erlangC(servers: number, load: number): number {
  let term = 1
  let sum = 1
  for (let at = 1; at < servers; at++) {
    term *= load / at
    sum += term
  }
  const last = ((term * load) / servers) * (servers / (servers - load))
  return last / (sum + last)
}

/** Mean wait in a queue M/M/c. @param rate arrivals a second @param service seconds each */
export const waitMMc = (servers: number, rate: number, service: number): number =>
  (erlangC(servers, rate * service) * service) / (servers - rate * service)

/** Mean wait in a queue M/D/1 (Pollaczek and Khinchine). */
export function waitMD1(rate: number, service: number): number {
  const load = rate * service
  return (load * service) / (2 * (1 - load))
}

/**
 * Waits until a sign-up is on disk, simulated: arrivals without memory, a lock that goes to whoever asked first, and groups of
 * all that wait at a receiver. In seconds, sorted.
 *
 * @param random from 0 to 1
 */
export function simulate(
  { commit, each, outside }: Figures,
  {
    receivers,
    rate,
    count,
    random,
    most = Infinity,
  }: { receivers: number; rate: number; count: number; random: () => number; most?: number },
): number[] {
  const waits: number[] = []
  const waiting: number[][] = Array.from({ length: receivers }, () => [])
  /** When each receiver is done with what it does outside of the lock. */
  const busyUntil = Array.from({ length: receivers }, () => 0)
  let lockFree = 0
  let now = 0
  let come = 0
  let next = 0
  const arrive = () => {
    const arrival = next
    const at = come % receivers
    busyUntil[at] = Math.max(busyUntil[at]!, arrival) + outside
    waiting[at]!.push(arrival)
    come += 1
    next = arrival - Math.log(1 - random()) / rate
  }
  while (waits.length < count) {
    if (waiting.every((queue) => queue.length === 0)) {
      now = Math.max(lockFree, next)
      arrive()
    }
    while (come < count && next <= Math.max(lockFree, now)) arrive()
    // The receiver whose oldest waits longest has asked first.
    const which = waiting.reduce(
      (best, queue, at) => ((queue[0] ?? Infinity) < (waiting[best]![0] ?? Infinity) ? at : best),
      0,
    )
    const group = waiting[which]!.splice(0, most)
    const begun = Math.max(lockFree, group.at(-1)!, outside === 0 ? 0 : group[0]! + outside)
    lockFree = begun + commit + group.length * each
    now = lockFree
    for (const arrival of group) waits.push(Math.max(lockFree, busyUntil[which]!) - arrival)
  }
  return waits.toSorted((one, other) => one - other)
}
