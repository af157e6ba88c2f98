import type { PublishedForm } from './published'

/*
 * What is remembered in this browser, in the page's own storage: who signed up, where the owner has something else to show
 * to them here, or a pop-up of the same list that need not ask them; and which wording was shown, where the owner keeps it.
 */

export function rememberJoined({ spot, known, popUps = [] }: PublishedForm): void {
  if (known) stored(`known-${spot}`, 'joined')
  for (const popUp of popUps) stored(popUp, 'joined')
}

export const isKnown = (spot: string): boolean => !!stored(`known-${spot}`)

/** Where storage is blocked, nothing is known. */
export function stored(name: string, value?: unknown): string | undefined {
  try {
    if (value) localStorage[`askbox-${name}`] = value
    return localStorage[`askbox-${name}`]
  } catch {
    return
  }
}
