import { readSetting, writeSetting } from '../data'
import { browserName } from './browser-name'
import { clientFor, type Pairing, ReceiverProblem } from '../client'

/** What came of a key in the address. */
export type PairingOffer =
  | { result: 'none' | 'paired' | 'same' }
  /** It works, and this browser already has one that may work as well: its owner decides. */
  | { result: 'ask'; pairing: Pairing }
  /** It was not taken; what was there stays. */
  | { result: 'refused'; message: string }

/**
 * Reads what pairs this browser from the address that it was opened with: a code that works once and is exchanged for a key
 * of the browser's own (`/#pair=…`, as `npm start` prints it), or a key (`/#key=…`, of a program's owner). It is taken out
 * of the address bar; a code that stays in the browser's history opens nothing. The fragment never travels to a server.
 * A key that a link brings is tried before it counts, and replaces one that is there only when the owner says so: anybody
 * can write such a link.
 */
export async function pairFromAddress(location: Location, history: History): Promise<PairingOffer> {
  const brought = new URLSearchParams(location.hash.slice(1))
  const [code, given] = [brought.get('pair') ?? '', brought.get('key') ?? '']
  if (code === '' && given === '') return { result: 'none' }
  history.replaceState(history.state, '', location.pathname + location.search)
  const stored = await readSetting('pairing')
  // A browser that is in already leaves the code to another.
  if (code !== '' && stored?.receiver === location.origin && !(await isRefused({ ...stored })))
    return { result: 'same' }
  const key = code === '' ? given : await exchanged(location.origin, code)
  if (typeof key !== 'string') return key
  const pairing = { receiver: location.origin, key }
  if (stored !== undefined && stored.receiver === pairing.receiver && stored.key === key) return { result: 'same' }
  try {
    await clientFor(pairing).describe()
  } catch (error) {
    const isWrong = error instanceof ReceiverProblem && error.status === 401
    return {
      result: 'refused',
      message: isWrong
        ? 'The key in that address is not this receiver’s.'
        : 'The receiver did not answer, so the key in that address could not be tried.',
    }
  }
  // One that this receiver has given up is no loss.
  const isLost = stored?.receiver === pairing.receiver && (await isRefused({ ...stored }))
  if (stored !== undefined && !isLost) return { result: 'ask', pairing }
  await writeSetting('pairing', pairing)
  return { result: 'paired' }
}

/** The browser's own key for a code; what is wrong where there is none. */
async function exchanged(receiver: string, code: string): Promise<string | PairingOffer> {
  const refused = (message: string): PairingOffer => ({ result: 'refused', message })
  const response = await fetch(`${receiver}/api/pair`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ code, name: browserName(navigator.userAgent) }),
  }).catch(() => null)
  if (response === null) return refused('Ask Box did not answer. Open the address again once it runs.')
  if (response.ok) return (await import('#core/api')).api.keys.pair.answer.parse(await response.json()).key
  return refused(
    response.status === 410
      ? `The address that you opened was used before, and connects one browser only. ${ANOTHER}`
      : response.status === 429
        ? 'Too many browsers were connected from here just now. Wait a minute, and open the address again.'
        : `The address that you opened has ended, or is not this one’s. ${ANOTHER}`,
  )
}
const ANOTHER =
  'A new one: in a browser that is connected, Settings, “Who may come in”; or “npm run pair” on the computer where Ask Box runs.'

async function isRefused(pairing: Pairing): Promise<boolean> {
  try {
    await clientFor(pairing).describe()
    return false
  } catch (error) {
    return error instanceof ReceiverProblem && error.status === 401
  }
}
