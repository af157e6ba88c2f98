import { PATIENCE_MS } from './fetched'
import { stored } from './joined'
import type { PublishedForm } from './published'

const asked = new Map<string, Promise<PublishedForm | null>>()

/** What the receiver says of a spot; null when it cannot be reached or knows none. Asked once for each. */
export function load(base: string, spot: string, version = stored(`wording-${spot}`)): Promise<PublishedForm | null> {
  const address = `${base}form/${spot}.json${version ? `?version=${version}` : ''}`
  const request = asked.get(address)
  if (request !== undefined) return request
  const answer = fetch(address, { credentials: 'omit', signal: AbortSignal.timeout(PATIENCE_MS) })
    .then(async (response) =>
      response.ok ? Object.assign(await response.json(), { view: response.headers.get('askbox-view') }) : null,
    )
    .catch(() => null)
  asked.set(address, answer)
  return answer
}
