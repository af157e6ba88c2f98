import { isLoopback } from '#core/site'

/** One thing that was looked at, and what it showed. */
export interface ReachFinding {
  what: string
  says: string
  isGood: boolean
}

/** Clocks that differ by more make confirmations and consents doubtful, in milliseconds. */
const MOST_SKEW_MS = 120_000

/**
 * Looks at a receiver from this browser, which stands where visitors' browsers do: reached, over https with a certificate
 * that browsers accept, this very receiver, its clock right.
 *
 * @param origin without a slash at the end
 * @param journal the journal that this workshop knows, or null
 */
export async function lookAtReceiver(origin: string, key: string, journal: string | null): Promise<ReachFinding[]> {
  const addresses: ReachFinding[] = []
  const add = (what: string, isGood: boolean, says: string) => addresses.push({ what, isGood, says })
  const isSafe = origin.startsWith('https:')
  const began = Date.now()
  let response: Response
  try {
    response = await fetch(`${origin}/api/receiver`, {
      headers: { Authorization: `Bearer ${key}` },
      cache: 'no-store',
      signal: AbortSignal.timeout(10_000),
    })
  } catch {
    add(
      'Not reached.',
      false,
      isSafe
        ? 'Nothing answered there, or its certificate is not one that browsers accept.'
        : 'Nothing answered there, or this browser refuses to ask without https.',
    )
    return addresses
  }
  add('Reached', true, `in ${Date.now() - began} ms.`)
  if (isLoopback(new URL(origin).hostname))
    add('This computer only.', false, 'Visitors’ browsers cannot come to an address of this computer.')
  else
    add(
      isSafe ? 'Over https,' : 'Without https.',
      isSafe,
      isSafe ? 'with a certificate that browsers accept.' : 'Browsers refuse to send forms from https pages there.',
    )
  const description = (await response.json().catch(() => null)) as { journal?: string } | null
  if (response.status === 401)
    add('Another key.', false, 'A receiver answers there, but it does not take this workshop’s key.')
  else if (description?.journal === undefined)
    add('No receiver.', false, 'Something else than a receiver answers there.')
  else if (description.journal !== journal)
    add('Another receiver.', false, 'It has another history than the one that this workshop is paired with.')
  else add('This receiver,', true, 'with the history that this workshop knows.')
  const said = Date.parse(response.headers.get('Date') ?? '')
  if (!Number.isNaN(said)) {
    const skew = said - Date.now()
    const seconds = Math.round(Math.abs(skew) / 1000)
    add(
      Math.abs(skew) <= MOST_SKEW_MS ? 'Its clock' : 'A wrong clock.',
      Math.abs(skew) <= MOST_SKEW_MS,
      Math.abs(skew) <= MOST_SKEW_MS
        ? 'is right.'
        : `It is ${seconds} seconds ${skew > 0 ? 'ahead of' : 'behind'} this computer’s: one of them is wrong.`,
    )
  }
  return addresses
}
