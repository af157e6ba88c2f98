import { solveChallenge } from 'altcha-lib'
import { deriveKey } from 'altcha-lib/algorithms/web/pbkdf2'

type Puzzle = Parameters<typeof solveChallenge>[0]['challenge']

/*
 * Fetched by the visitors' script when the receiver asks for a puzzle, and by the page that is shown where a form was posted
 * without it. Browsers have what it takes on encrypted pages alone.
 */

/** What to send along, or null where this browser cannot solve it. */
export async function solve(challenge: Puzzle): Promise<string | null> {
  try {
    const solution = await solveChallenge({ challenge, deriveKey })
    return solution === null ? null : JSON.stringify({ challenge, solution })
  } catch {
    return null
  }
}

const form = document.querySelector<HTMLFormElement>('form[data-askbox-puzzle]')
if (form !== null) {
  const solved = await solve(JSON.parse(form.dataset.askboxPuzzle ?? '') as Puzzle)
  if (solved === null) {
    document.getElementById('works')!.hidden = true
    document.getElementById('fails')!.hidden = false
  } else {
    const input = document.createElement('input')
    Object.assign(input, { type: 'hidden', name: 'askbox-puzzle', value: solved })
    form.append(input)
    form.submit()
  }
}
