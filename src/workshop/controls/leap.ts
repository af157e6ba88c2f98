import type { ClockLeap } from '#core/api'
import { shownMoment } from './shown'

/** What a leap of the receiver's clock means, for its owner. */
export function leapWords({ by, isSinceStart, trustedInMs }: ClockLeap, now = Date.now()): string {
  const amount = `${spanWords(Math.abs(by))} ${by < 0 ? 'back' : 'ahead'}`
  const until = shownMoment(new Date(now + trustedInMs).toISOString(), new Date(now))
  return `${
    isSinceStart
      ? `The clock of the receiver’s computer is ${amount} of what was written last.`
      : `The clock of the receiver’s computer leapt ${amount}.`
  } Until ${until} nobody’s waiting ends by it, and no gift.`
}

function spanWords(ms: number): string {
  const minutes = Math.round(ms / 60_000)
  if (minutes < 120) return minutes === 1 ? '1 minute' : `${minutes} minutes`
  const hours = Math.round(minutes / 60)
  return hours < 48 ? `${hours} hours` : `${Math.round(hours / 24)} days`
}
