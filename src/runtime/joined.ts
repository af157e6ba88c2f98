import type { Published } from './published'

/*
 * Who signed up in this browser, remembered in the page's own storage; only where the owner has something else to show to
 * them here, or a pop-up of the same list that need not ask them.
 */

export function rememberJoined({ spot, known, popUps = [] }: Published): void {
  try {
    if (known) localStorage.setItem(`askbox-known-${spot}`, 'joined')
    for (const popUp of popUps) localStorage.setItem(`askbox-${popUp}`, 'joined')
  } catch {
    // Where storage is blocked, nobody is known.
  }
}

export function isKnown(spot: string): boolean {
  try {
    return localStorage.getItem(`askbox-known-${spot}`) !== null
  } catch {
    return false
  }
}
