import type { Step } from '#core/proof'

/*
 * What keeps a line from being whole, in words for its owner: said alike wherever it is said, at a spot, on a form's page
 * and on the Desk.
 */

/** @param since whether that was after a rehearsal that went through */
export function refusedThere(count: number, since = false): string {
  const refused = `${count} ${count === 1 ? 'person was' : 'people were'} refused there`
  return since ? `Proven, and ${refused} since: look why.` : `${refused}: look why.`
}

/** What failed in a rehearsal, as it was seen. */
export const failedThere = ({ what, seen }: Pick<Step, 'what' | 'seen'>): string => `${what.toLowerCase()}. ${seen}`

/** Sign-ups by code that was pasted before the newest version. */
export const byOlderCode = (count: number): string =>
  `${count} sign-${count === 1 ? 'up' : 'ups'} in 7 days came from older code. Paste the new code.`
