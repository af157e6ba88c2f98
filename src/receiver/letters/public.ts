import { type Context, Hono } from 'hono'
import type { MemberId } from '#core/ids'
import { allBlocks, type Sending, titleOf } from '#core/letter'
import type { Member } from '#core/list'
import { escaped } from '#core/message'
import { element, noticePage, type Page } from '#core/render'
import type { Ledger } from '../ledger'
import { sendMarkup, sendPage } from '../pages'
import type { Rehearsals } from '../rehearsals'
import type { Settings } from '../settings'
import { visitorAddress } from '../http/visitor-address'
import { writeLetter } from './compose'
import { CountedPresses } from './counted-presses'
import { countedLinkIn, webCopyIn, webCopyToken } from './links'

const MOST_IN_ARCHIVE = 200

/** One person's copy is no page of the web. */
const NOINDEX = '<meta name="robots" content="noindex">'

/** What anybody with the link can read: a letter's copy, the letters of a list, and where a counted link leads. */
export function letterPages(ledger: Ledger, settings: Settings, rehearsals: Rehearsals): Hono {
  const routes = new Hono()
  const { publicUrl } = settings
  const nothing = (said: string) => noticePage('This link leads nowhere', said)

  /** Somebody real, or made up for a rehearsal. */
  async function whoIs(id: MemberId): Promise<Member | null> {
    for (const people of [ledger, ...(await rehearsals.spaces())]) {
      const member = await people.member(id)
      if (member !== null) return member
    }
    return null
  }

  routes.get('/letter/:token', async (c) => {
    const named = webCopyIn(await ledger.linkKeys(), c.req.param('token'))
    const read = named === null ? null : await ledger.letters.contentFor(named.sending, named.member)
    const reader = named?.member ?? null
    const member = reader === null ? null : await whoIs(reader)
    // Of somebody who was erased nothing is left, their copy neither.
    const isGone = reader !== null && member === null
    const written =
      read === null || isGone
        ? null
        : await writeLetter(
            ledger,
            settings,
            { id: read.sending.id, content: read.content },
            { member, isWebCopy: true },
          )
    if (written === null)
      return sendPage(c, publicUrl, nothing('It may be incomplete: copy all of it from the mail.'), {
        posts: 'nothing',
        status: 404,
        inFrames: false,
      })
    const { html, subject, text } = written.rendered
    const { language } = written.settings
    const isForEverybody = member === null && read!.content.isInArchive
    const markup = html ?? plainDocument(language, subject, text)
    return sendMarkup(c, publicUrl, isForEverybody ? markup : markup.replace('</head>', () => `${NOINDEX}</head>`), {
      posts: 'nothing',
      ...(!isForEverybody && { headers: { 'X-Robots-Tag': 'noindex' } }),
      inFrames: isForEverybody,
      anyPicture: allBlocks(read!.content.blocks).some((block) => block.kind === 'picture' && block.address !== ''),
    })
  })

  routes.get('/letters/:list', async (c) => {
    const list = ledger.published().list(c.req.param('list'))
    if (list === null || list.isArchived === true)
      return sendPage(c, publicUrl, nothing('There are no letters here.'), { posts: 'nothing', status: 404 })
    const all = (await ledger.letters.sendings(MOST_IN_ARCHIVE)).filter(
      ({ content, state, counts, source }) =>
        content.isInArchive &&
        content.lists.includes(list.id) &&
        source.kind !== 'series' &&
        (state === 'done' || (state === 'going' && counts.sent > 0)),
    )
    const language = ledger.published().mail(list.id)?.language ?? 'en'
    const keys = await ledger.linkKeys()
    const at = (id: string) => `${publicUrl}/letter/${webCopyToken(keys, id, null)}`
    return sendPage(c, publicUrl, archivePage(list.name, language, all, at), { posts: 'nothing' })
  })

  const counted = new CountedPresses()
  const isFirstPress = (c: Context, { sending, number }: { sending: string; number: number }) =>
    counted.isFirst(sending, number, visitorAddress(c, settings.trustedProxies), c.req.header('User-Agent') ?? '')

  routes.get('/to/:token', async (c) => {
    const link = countedLinkIn(await ledger.linkKeys(), c.req.param('token'))
    const address =
      link === null
        ? null
        : c.req.method === 'HEAD' || !isFirstPress(c, link)
          ? await ledger.letters.linkAt(link.sending, link.number)
          : await ledger.letters.press(link.sending, link.number)
    if (address === null)
      return sendPage(c, publicUrl, nothing('It may be incomplete: copy all of it from the mail.'), {
        posts: 'nothing',
        status: 404,
        inFrames: false,
      })
    c.header('Cache-Control', 'no-store')
    c.header('Referrer-Policy', 'no-referrer')
    return c.redirect(address, 303)
  })
  return routes
}

/** The letters of a list that anybody may read, newest first. */
function archivePage(name: string, language: string, sendings: readonly Sending[], at: (id: string) => string): Page {
  const dayOf = (ms: number) => new Intl.DateTimeFormat(language, { dateStyle: 'long', timeZone: 'UTC' }).format(ms)
  return element(
    'html',
    { lang: language, dir: language === 'ar' ? 'rtl' : 'ltr' },
    element(
      'head',
      {},
      element('meta', { charset: 'utf-8' }),
      element('meta', { name: 'viewport', content: 'width=device-width, initial-scale=1' }),
      element('title', {}, name),
      element('style', {}, ARCHIVE_STYLES),
    ),
    element(
      'body',
      {},
      element(
        'main',
        {},
        element('h1', {}, name),
        sendings.length === 0
          ? element('p', {}, '–')
          : element(
              'ul',
              {},
              ...sendings.map(({ id, content, startsAt }) =>
                element(
                  'li',
                  {},
                  element('a', { href: at(id), target: '_blank', rel: 'noopener' }, titleOf(content, name)),
                  element('time', { datetime: new Date(startsAt).toISOString() }, dayOf(startsAt)),
                ),
              ),
            ),
      ),
    ),
  ) as Page
}

const ARCHIVE_STYLES = `
:root { color-scheme: light dark; }
body {
  margin: 0;
  font: 17px/1.5 system-ui, sans-serif;
}
main {
  max-width: 640px;
  margin: 0 auto;
  padding: 24px 20px 40px;
}
h1 {
  margin: 0 0 16px;
  font-size: 24px;
  line-height: 1.25;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 2px 16px;
  padding: 10px 0;
  border-top: 1px solid color-mix(in srgb, currentcolor 18%, transparent);
}
a { color: inherit; }
time {
  opacity: .75;
  font-size: 15px;
}
`

/** A letter in plain text, as a page. */
function plainDocument(language: string, subject: string, text: string): string {
  const linked = escaped(text).replaceAll(
    /https?:\/\/[^\s<>&]{1,1500}(?:&amp;[^\s<>&]{1,300}){0,20}/g,
    (address) => `<a href="${address}">${address}</a>`,
  )
  return `<!doctype html>
<html lang="${language}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${escaped(subject)}</title>
<style>:root { color-scheme: light dark } body { max-width: 640px; margin: 0 auto; padding: 24px 20px; font: 17px/1.5 system-ui, sans-serif; white-space: pre-wrap; overflow-wrap: anywhere }</style></head>
<body><h1>${escaped(subject)}</h1>${linked}</body></html>`
}
