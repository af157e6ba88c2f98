import { writeSetting } from '../db'

/**
 * Takes the owner's key from the address `npm start` printed (`/#key=…`) and removes it from the address bar
 * and the browser's history. The fragment never travels to a server.
 *
 * @returns whether the address held a key
 */
export async function pairFromAddress(location: Location, history: History): Promise<boolean> {
  const key = new URLSearchParams(location.hash.slice(1)).get('key')
  if (key === null || key === '') return false
  history.replaceState(history.state, '', location.pathname + location.search)
  await writeSetting('pairing', { receiver: location.origin, key })
  return true
}
