import { evidence, type Failure, failure } from '#core/proof'
import { type FetchedPage, NoAnswer, type Ports } from './ports'

export async function fetchLooking(address: string, ports: Ports): Promise<FetchedPage | Failure> {
  let page: FetchedPage
  try {
    page = await ports.fetch(address)
  } catch (error) {
    if (!(error instanceof NoAnswer)) throw error
    return failure('site-down', 'page', {
      expected: `${address} answers.`,
      happened: error.message,
      cause: 'The site is down, its address is another, or it is not reached from where the receiver stands.',
      mend: 'Open the page yourself; correct its address, or wait until the site is back.',
    })
  }
  if (page.status === 401 || page.status === 403) return isPrivate(page)
  if (page.status < 400) return page
  const isMissing = page.status === 404 || page.status === 410
  return failure(
    isMissing ? 'page-missing' : 'site-error',
    'page',
    {
      expected: `${address} shows a page.`,
      happened: `It answers ${page.status}.`,
      cause: isMissing ? 'There is no such page: not published yet, or moved.' : 'The site has trouble of its own.',
      mend: isMissing
        ? 'Correct the address of the spot’s page.'
        : 'Open the page yourself and look what the site says.',
    },
    evidence('response', page.html),
  )
}

/** So often a page is fetched: one that fails one time in four is met so by 5 in 6. */
const LOOKS = 6

/** A page that sometimes answers something else: one server of several that lacks the code, or fails. */
export async function unsteadyAt(address: string, html: string, mark: string, ports: Ports): Promise<Failure | null> {
  const isThere = html.includes(mark)
  const others = await Promise.all(
    Array.from({ length: LOOKS - 1 }, () => ports.fetch(address).catch((error: unknown) => error as Error)),
  )
  const said = others.flatMap((one) => {
    if (one instanceof Error) return [one.message]
    // Too many at once is what we did.
    if (one.status === 429) return []
    if (one.status >= 400) return [`It answered ${one.status}.`]
    return isThere && !one.html.includes(mark) ? ['The code was not on it.'] : []
  })
  if (said.length === 0) return null
  return failure('page-unsteady', 'page', {
    expected: `Everybody who opens ${address} gets the page with the form.`,
    happened: `Of ${LOOKS} times, it came ${LOOKS - said.length} times. Else: ${said[0]}`,
    cause: 'Several servers or caches answer for the site, and not all have the same page; or one of them fails.',
    mend: 'Empty the site’s caches, and tell whoever runs its servers.',
  })
}

export function isPrivate(page: FetchedPage): Failure {
  return failure(
    'page-private',
    'page',
    {
      expected: 'Anybody can open the page.',
      happened: `${page.address} asks for a password (status ${page.status}).`,
      cause: 'The page, or the whole site, is not public yet.',
      mend: 'Publish the site, or take the password away, and rehearse again.',
    },
    evidence('response', page.html),
  )
}
