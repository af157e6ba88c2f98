import type { OpenAPIHono } from '@hono/zod-openapi'
import { allows, api, type LetterCopy } from '#core/api'
import { parseEmail } from '#core/email'
import {
  feedContentSchema,
  type LetterContent,
  letterFindings,
  linksOfLetter,
  type Sending,
  titleOf,
} from '#core/letter'
import { refused } from '../../http/answers'
import { described } from '../../http/described'
import type { Ledger } from '../../ledger'
import { bytesOf, type MailParts, openTransport, refusalOf } from '../../mail'
import { OutsideProblem } from '../../outside'
import { newId } from '../../random'
import type { Rehearsals } from '../../rehearsals'
import type { Settings } from '../../settings'
import { letterMail, senderOf, writeLetter } from '../compose'
import type { Feeds } from '../feeds'
import { webCopyToken } from '../links'
import { readersNow } from '../readers'
import { tryLetter } from '../trial'
import { tryLink } from '../tried-links'

const paths = described(api.letters)
const MOST_LISTED = 200
const AT_ONCE = 6

export interface LetterApiParts {
  ledger: Ledger
  settings: Settings
  rehearsals: Rehearsals
  mail: MailParts
  feeds: Feeds
  now(): number
}

/** The owner's side of letters: sent, followed, stopped, looked at and tried. */
export function letterRoutes(routes: OpenAPIHono, parts: LetterApiParts): void {
  sendingRoutes(routes, parts)
  lookRoutes(routes, parts)
  feedRoutes(routes, parts)
}

const missing = { status: 404, title: 'Not there', detail: 'There is no such letter.' } as const

function sendingRoutes(routes: OpenAPIHono, { ledger, settings, mail, feeds }: LetterApiParts): void {
  const { letters } = ledger
  routes.openapi(paths.listSendings, async (c) => {
    const sendings = await letters.sendings(MOST_LISTED)
    // A list tells no more of each than what it is called.
    return c.json(
      { sendings: sendings.map((one): Sending => ({ ...one, content: { ...one.content, blocks: [] } })) },
      200,
    )
  })

  routes.openapi(paths.readSending, async (c) => {
    const sending = await letters.sending(c.req.valid('param').id)
    if (sending === null) return refused(c, missing)
    const { waiting, queued } = sending.counts
    const { lastOutAt } = await mail.sender.outlook(waiting)
    const keys = await ledger.linkKeys()
    return c.json(
      {
        sending,
        links: await letters.presses(sending.id),
        lastOutAt: waiting + queued === 0 ? null : lastOutAt,
        webCopy: `${settings.publicUrl}/letter/${webCopyToken(keys, sending.id, null)}`,
      },
      200,
    )
  })

  routes.openapi(paths.send, async (c) => {
    const { id, source, content, when } = c.req.valid('json')
    const problem = problemOf(ledger, content.lists) ?? (await stopOf(ledger, settings, content))
    if (problem !== null) return refused(c, { status: 409, title: 'Not sent', detail: problem })
    return c.json({ sending: await letters.send({ id, source, content, when }) }, 200)
  })

  routes.openapi(paths.changeSending, async (c) => {
    const { id } = c.req.valid('param')
    const { to } = c.req.valid('json')
    const ways = { yes: letters.yes, stop: letters.stop, 'go-on': letters.goOn, cancel: letters.cancel }
    const sending = await ways[to](id)
    return sending === null ? refused(c, missing) : c.json({ sending }, 200)
  })

  routes.openapi(paths.mendSending, async (c) => {
    const { id } = c.req.valid('param')
    const { body } = c.req.valid('json')
    const before = await letters.sending(id)
    const problem = before === null ? null : await stopOf(ledger, settings, { ...before.content, ...body })
    if (problem !== null) return refused(c, { status: 409, title: 'Not mended', detail: problem })
    const sending = await letters.mend(id, body)
    return sending === null ? refused(c, missing) : c.json({ sending }, 200)
  })

  routes.openapi(paths.listLettersOf, async (c) => {
    const copies = await letters.copiesOf(c.req.valid('param').member, MOST_LISTED)
    const shown = await Promise.all(
      copies.map(async (copy): Promise<LetterCopy | null> => {
        const read = await letters.contentFor(copy.sending, copy.member)
        if (read === null) return null
        const { hasLeft, hasComplained, state, at, sending } = copy
        const title = titleOf(read.content, ledger.published().list(copy.list)?.name ?? '')
        return { sending, title, source: read.sending.source, state, at, hasLeft, hasComplained }
      }),
    )
    return c.json({ letters: shown.filter((one) => one !== null) }, 200)
  })

  routes.openapi(paths.lettersNeedingHand, async (c) => {
    const all = await letters.sendings(MOST_LISTED)
    const nameOf = ({ content }: Sending) => titleOf(content, ledger.published().list(content.lists[0]!)?.name ?? '')
    const sendings = all.flatMap((one) =>
      one.state === 'asks' || (one.state === 'stopped' && one.said.startsWith('It stopped'))
        ? [{ kind: one.state, id: one.id as string, title: nameOf(one), said: one.said }]
        : [],
    )
    const read = await Promise.all(
      ledger
        .published()
        .feeds()
        .map(async (one) => ({ one, ...(await feeds.state(one.id)) })),
    )
    const failing = read.flatMap(({ one, said }) =>
      said === '' || one.isPaused ? [] : [{ kind: 'feed' as const, id: one.id as string, title: one.draft.name, said }],
    )
    return c.json({ needs: [...sendings, ...failing] }, 200)
  })
}

/** Why lists cannot be written to; null where they can. */
function problemOf(ledger: Ledger, lists: readonly string[]): string | null {
  const published = ledger.published()
  if (lists.length === 0) return 'No list is chosen whose people would get it.'
  const gone = lists.find((list) => published.list(list) === null)
  if (gone !== undefined) return 'One of its lists is not there any more.'
  return published.mail(lists[0]!) === null ? 'The list sends no mail yet: set its sender up, and publish it.' : null
}

/** What of a letter's words keeps it from going, whoever sends it; null where nothing does. */
async function stopOf(ledger: Ledger, settings: Settings, body: LetterContent): Promise<string | null> {
  const written = await writeLetter(ledger, settings, { id: newId(), content: body }, { member: null, isTest: true })
  const text = written?.rendered.text ?? ''
  const stop = letterFindings({
    ...{ body, settings: written?.settings ?? null, pictureBytes: new Map(), htmlBytes: 0 },
    plain: text.slice(0, text.lastIndexOf('-- \n')),
  }).find(({ weight }) => weight === 'stops')
  return stop === undefined ? null : `${stop.message} ${stop.reason}`
}

function lookRoutes(routes: OpenAPIHono, { ledger, settings, rehearsals, mail, now }: LetterApiParts): void {
  routes.openapi(paths.readReaders, async (c) => {
    const { content } = c.req.valid('json')
    // How many it holds of is an answer about each of them.
    if (content.readers.kind === 'filter' && !allows(c.get('bearer'), 'see-people'))
      return refused(c, {
        status: 403,
        title: 'Not with this key',
        detail: 'This key sees no names and addresses, nor whom a filter of them holds of.',
      })
    return c.json(await readersNow(ledger, content, mail.sender, now()), 200)
  })

  routes.openapi(paths.tryLinks, async (c) => {
    const links = linksOfLetter(c.req.valid('json').content).slice(0, 60)
    const tried = []
    for (let at = 0; at < links.length; at += AT_ONCE)
      tried.push(
        ...(await Promise.all(
          links.slice(at, at + AT_ONCE).map(async (link) => ({ ...link, ...(await tryLink(link.address, settings)) })),
        )),
      )
    return c.json({ links: tried }, 200)
  })

  routes.openapi(paths.sendTestLetter, async (c) => {
    const { to, content } = c.req.valid('json')
    const parsed = parseEmail(to)
    if (!parsed.ok) return c.json({ ok: false, said: parsed.problem.message }, 200)
    const server = await mail.sender.server()
    if (server === null) return c.json({ ok: false, said: 'No mail server is set up yet.' }, 200)
    if (senderOf(ledger, content, null) === null)
      return c.json({ ok: false, said: 'The list sends no mail yet: set its sender up, and publish it.' }, 200)
    const id = newId<never>()
    const transport = openTransport(server, (await mail.sender.settings()).dkim)
    try {
      // Its pictures are given out from now on: the mail may be opened later.
      await ledger.letters.keepTrial(id, content)
      const written = await writeLetter(ledger, settings, { id, content }, { member: null, isTest: true })
      const composed = letterMail(written!, { id: `test-${id as string}`, to: parsed.email.typed })
      await bytesOf(composed)
      return c.json({ ok: true, said: await transport.send(composed) }, 200)
    } catch (error) {
      return c.json({ ok: false, said: refusalOf(error).said }, 200)
    } finally {
      transport.close()
    }
  })

  routes.openapi(paths.tryLetter, async (c) => {
    const { content } = c.req.valid('json')
    const problem = problemOf(ledger, content.lists)
    if (problem !== null) return c.json({ steps: [{ name: 'Its list', ok: false, said: problem }] }, 200)
    const { rehearsalMail } = mail
    return c.json({ steps: await tryLetter({ ledger, settings, rehearsals, rehearsalMail, now }, content) }, 200)
  })
}

function feedRoutes(routes: OpenAPIHono, { ledger, feeds }: LetterApiParts): void {
  routes.openapi(paths.readFeed, async (c) => c.json(await feeds.state(c.req.valid('param').id), 200))

  routes.openapi(paths.readFeedNow, async (c) => {
    const feed = ledger
      .published()
      .feeds()
      .find(({ id }) => id === c.req.valid('param').id)
    if (feed === undefined) return refused(c, { status: 404, title: 'Not begun', detail: 'Begin the feed first.' })
    await feeds.read(feed)
    await feeds.sendDue(feed)
    return c.json(await feeds.state(feed.id), 200)
  })

  routes.openapi(paths.lookAtFeed, async (c) => {
    const nothing = { ok: false, title: '', posts: [], letter: null }
    const reading = feedContentSchema.safeParse(c.req.valid('json').content)
    if (!reading.success) return c.json({ ...nothing, said: 'This is no feed.' }, 200)
    try {
      const read = await feeds.preview(reading.data.address)
      const posts = [...read!.posts].sort((one, other) => (other.at ?? 0) - (one.at ?? 0))
      const some = posts.slice(0, reading.data.rhythm.kind === 'each' ? 1 : reading.data.most)
      const letter = some.length === 0 ? null : feeds.letterOf(reading.data, some)
      const shown = posts.slice(0, 20).map(({ title, at, address }) => ({ title, at, address }))
      return c.json({ ok: true, said: '', title: read!.title, posts: shown, letter }, 200)
    } catch (error) {
      if (error instanceof OutsideProblem) return c.json({ ...nothing, said: error.message }, 200)
      throw error
    }
  })

  routes.openapi(paths.readSeries, async (c) => c.json(await ledger.letters.seriesState(c.req.valid('param').id), 200))
}
