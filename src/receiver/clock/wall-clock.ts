/** More than clocks are ever corrected by at once, and less than anything here waits for. */
const LEAP_MS = 60_000
/** How long a clock has to hold after a leap before its time is written. A wrong step is usually mended in minutes. */
const HOLDS_MS = 10 * 60_000
/** How long after that before anything ends by the new time: nobody's waiting is over in between. */
const GRACE_MS = 60 * 60_000
/** A start that comes so long after the last thing written is a leap too, until it was confirmed. */
const LONG_OFF_MS = 86_400_000

/** A leap of the computer's clock that nobody has confirmed yet. */
export interface Leap {
  /** By how much, in milliseconds; negative for back. */
  by: number
  /** Whether it was found at the start, against what was written last. */
  isSinceStart: boolean
  /** Milliseconds until it is taken for true by itself. */
  trustedInMs: number
}

export interface Clock {
  /** Milliseconds since 1970, for what is written down. Leaps, ahead or back, only after the leap has held for a while. */
  now(): number
  /** The same for what ends with time (waiting, gifts): goes on as if there had been no leap, until it is confirmed. */
  sureNow(): number
  /** Null while the clock is as it should be. */
  leap(): Leap | null
  /** Its owner says that the computer's clock is right. */
  confirm(): void
  /** Told by how many milliseconds the time went back: what was put off until then would come that much too late. */
  onSetBack(listener: (byMs: number) => void): void
}

/**
 * The computer's clock, held against one that never leaps. A wall clock that was set wrong for a moment would otherwise
 * end everybody's waiting for good.
 *
 * @param wall milliseconds since 1970 as the computer tells, right or wrong
 * @param steady milliseconds from any beginning, which only ever count up
 * @param lastWritten the latest time that was ever written here; null where nothing was
 */
export function openClock(wall: () => number, steady: () => number, lastWritten: number | null): Clock {
  const begun = steady()
  const gap = lastWritten === null ? 0 : wall() - lastWritten
  const isBehind = gap < -1_000
  const isLongOff = gap > LONG_OFF_MS
  /** What `now` goes by is the steady clock and this. */
  let offset = (isBehind ? lastWritten! : wall()) - begun
  /** The same of `sureNow`, while it differs. */
  let sureOffset: number | null = isLongOff ? lastWritten! - begun : null
  let sureFrom = isLongOff ? begun + GRACE_MS : 0
  let pending: { drift: number; since: number } | null = null
  let isSinceStart = isBehind || isLongOff
  /** Never below it, so that a correction by seconds turns no two things round. */
  let latest = lastWritten ?? -Infinity
  const listeners: ((byMs: number) => void)[] = []

  function look(): void {
    const at = steady()
    const drift = wall() - (at + offset)
    if (Math.abs(drift) < LEAP_MS) {
      pending = null
      // What is corrected by seconds is followed; `now` waits where it was ahead.
      offset += drift
      if (sureOffset !== null) sureOffset += drift
    } else if (pending === null || Math.abs(drift - pending.drift) >= LEAP_MS) {
      isSinceStart = at === begun && isBehind
      pending = { drift, since: at }
    } else if (at - pending.since >= HOLDS_MS) follow(at)
    if (sureOffset !== null && at >= sureFrom) sureOffset = null
  }
  /** Takes the leap for true, but for what ends by it. */
  function follow(at: number): void {
    const { drift } = pending!
    sureOffset ??= offset
    sureFrom = at + GRACE_MS
    offset += drift
    pending = null
    if (drift > 0) return
    // What was dated too late stays so; what comes now is dated right, and the order is that of the journal's numbers.
    latest = -Infinity
    for (const listener of listeners) listener(-drift)
  }
  look()

  return {
    now() {
      look()
      latest = Math.max(latest, Math.round(steady() + offset))
      return latest
    },
    sureNow() {
      look()
      return Math.round(steady() + (sureOffset ?? offset))
    },
    leap() {
      look()
      const at = steady()
      if (pending !== null)
        return { by: pending.drift, isSinceStart, trustedInMs: pending.since + HOLDS_MS + GRACE_MS - at }
      return sureOffset === null ? null : { by: offset - sureOffset, isSinceStart, trustedInMs: sureFrom - at }
    },
    confirm() {
      look()
      if (pending !== null) follow(steady())
      sureOffset = null
    },
    onSetBack: (listener) => void listeners.push(listener),
  }
}
