import { readSetting, writeSetting } from '../data'
import { clientFor, type Pairing, ReceiverProblem } from '../client'

/** What came of a key in the address. */
export type PairingOffer =
  | { result: 'none' | 'paired' | 'same' }
  /** It works, and this browser already has one that may work as well: its owner decides. */
  | { result: 'ask'; pairing: Pairing }
  /** It was not taken; what was there stays. */
  | { result: 'refused'; message: string }

/**
 * Reads the owner's key from the address that `npm start` printed (`/#key=…`) and removes it from the address bar
 * and the browser's history. The fragment never travels to a server. A key that a link brings is tried before it
 * counts, and replaces one that is there only when the owner says so: anybody can write such a link.
 */
export async function pairFromAddress(location: Location, history: History): Promise<PairingOffer> {
  const key = new URLSearchParams(location.hash.slice(1)).get('key')
  if (key === null || key === '') return { result: 'none' }
  history.replaceState(history.state, '', location.pathname + location.search)
  const stored = await readSetting('pairing')
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

async function isRefused(pairing: Pairing): Promise<boolean> {
  try {
    await clientFor(pairing).describe()
    return false
  } catch (error) {
    return error instanceof ReceiverProblem && error.status === 401
  }
}
