import type { Interval } from '#core/results'
import type { Judgement } from './judge'

/** A difference of shares as so many in 100, or in 1,000 where it is small: “3 in 100”. */
export function shareWords(share: number): string {
  const size = Math.abs(share)
  const per = size > 0 && size < 0.01 ? 1_000 : 100
  return `${Number((size * per).toFixed(size * per < 10 ? 1 : 0))} in ${per.toLocaleString('en-GB')}`
}

/** “between 1 in 100 fewer and 3 in 100 more”. */
export function betweenWords({ low, high }: Interval): string {
  const side = (share: number) => `${shareWords(share)} ${share < 0 ? 'fewer' : 'more'}`
  return `between ${side(low)} and ${side(high)}`
}

/** What a trial says, or said when it ended, as a sentence. */
export function judgementWords(judgement: Judgement, nameOf: (version: number) => string, hasEnded = false): string {
  switch (judgement.kind) {
    case 'too-early':
      return hasEnded ? 'It ended too early to say anything.' : 'Too early to say anything.'
    case 'uncounted':
      return 'Nothing can be said: more people signed up than were counted as looking at it.'
    case 'open':
      return `${hasEnded ? 'It ended undecided' : 'Not decided yet'}. “${nameOf(judgement.version)}” ${hasEnded ? 'was' : 'is'} in front; really it may bring anything ${betweenWords(judgement.between)}.`
    case 'better':
      return `“${nameOf(judgement.version)}” is better: of those who look at it, ${betweenWords(judgement.ahead)} sign up.`
    case 'alike':
      return judgement.isUsedUp
        ? `No difference that matters was found in the planned views: what there is lies ${betweenWords(judgement.between)}.`
        : `No difference that matters: what there is lies ${betweenWords(judgement.between)}.`
  }
}
