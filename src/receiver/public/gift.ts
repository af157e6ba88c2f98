import { type Context, Hono } from 'hono'
import type { Member } from '#core/list'
import { type Gift, isGiftOpen } from '#core/mail'
import { addressProblem } from '#core/site'
import { answerTextsOf } from '#core/texts'
import type { GiftFiles } from '../gifts'
import type { Ledger } from '../ledger'
import type { Settings } from '../settings'
import type { MailPages } from './mail-pages'
import { passedOn, sendOnward } from './onward'

export interface GiftRouteParts {
  ledger: Ledger
  settings: Settings
  gifts: GiftFiles
  now(): number
}

/** `GET and POST /gift/:token`. */
export function giftRoutes({ ledger, settings, gifts, now }: GiftRouteParts, pages: MailPages): Hono {
  const { holder, contentFor, show, nothing } = pages
  const taken = async (member: Member) => passedOn(await ledger.linkKeys(), `gift of ${member.id}`)
  const routes = new Hono()
  /** Where a link works so many times, opening it must not count: mail scanners do. */
  routes.get('/gift/:token', async (c) => {
    const led = await ledOn(c)
    if (led !== null) return led
    const open = await giftBehind(c)
    if (open instanceof Response) return open
    return open.gift.times === null
      ? handOver(c, open)
      : show(
          c,
          open.member,
          { heading: open.gift.label, message: '' },
          {
            presses: [
              {
                action: `/gift/${c.req.param('token')}`,
                words: answerTextsOf(contentFor(open.member).language).takeGift,
                isMain: true,
              },
            ],
          },
        )
  })
  routes.post('/gift/:token', async (c) => {
    const open = await giftBehind(c)
    return open instanceof Response ? open : handOver(c, open)
  })
  /** The gift of a link that works, or the page that says why it does not. */
  async function giftBehind(c: Context): Promise<{ gift: Gift; member: Member } | Response> {
    const link = await holder(c.req.param('token')!, 'gift')
    const gift = link === null ? null : (ledger.published().mail(link.member.list)?.gift ?? null)
    if (link === null || gift === null) return nothing(c)
    const { member } = link
    const isTheirs =
      member.status === 'confirmed' &&
      (gift.firstSoMany === null || (await ledger.isAmongFirst(member, gift.firstSoMany)))
    return isTheirs && isGiftOpen(gift, member.joinedAt, await ledger.downloadsOf(member.id), now())
      ? { gift, member }
      : giftOver(c, member)
  }
  /** Where a press led, which was counted by then, and is not again when the page is loaded anew. */
  async function ledOn(c: Context): Promise<Response | null> {
    const link = await holder(c.req.param('token')!, 'gift')
    const gift = link === null ? null : (ledger.published().mail(link.member.list)?.gift ?? null)
    if (link === null || gift?.what.kind !== 'address' || addressProblem(gift.what.address) !== null) return null
    if ((await taken(link.member)).open(c.req.query('taken') ?? '', now()) === null) return null
    return sendOnward(c, settings.publicUrl, new URL(gift.what.address.trim()).href, {
      said: { heading: gift.label, message: '' },
      content: contentFor(link.member),
      mayBeFramed: false,
    })
  }
  function giftOver(c: Context, member: Member): Response {
    return show(c, member, answerTextsOf(contentFor(member).language).giftOver, { status: 410 })
  }
  async function handOver(c: Context, { gift, member }: { gift: Gift; member: Member }): Promise<Response> {
    const counts = c.req.method !== 'HEAD'
    if (gift.what.kind === 'address') {
      if (addressProblem(gift.what.address) !== null) return nothing(c)
      if (counts && !(await ledger.takeDownload(member.id, gift.times))) return giftOver(c, member)
      if (c.req.method === 'POST')
        return c.redirect(`/gift/${c.req.param('token')}?taken=${(await taken(member)).seal({}, now())}`, 303)
      return c.redirect(new URL(gift.what.address.trim()).href, 303)
    }
    const { id, name, type } = gift.what
    const size = await gifts.size(id)
    if (size === null) return nothing(c)
    if (!counts) return c.body(null, 200, headersOf(type, name, size))
    // Asked many times at once, each is counted before its first byte.
    if (!(await ledger.takeDownload(member.id, gift.times))) return giftOver(c, member)
    return new Response(await gifts.read(id), { headers: headersOf(type, name, size) })
  }
  return routes
}

function headersOf(type: string, name: string, size: number): Record<string, string> {
  return {
    // Never anything that a browser would run here.
    'Content-Type':
      /^(application\/pdf|image\/(png|jpeg|webp|gif)|audio\/[\w.-]+|video\/[\w.-]+|application\/zip)$/.test(type)
        ? type
        : 'application/octet-stream',
    'Content-Length': String(size),
    // RFC 6266, with RFC 8187 for names that are not ASCII.
    'Content-Disposition': `attachment; filename="${name.replaceAll(/[^\x20-\x7e]|["\\]/g, '_')}"; filename*=UTF-8''${encodeURIComponent(name).replaceAll(/['()*]/g, (one) => `%${one.charCodeAt(0).toString(16).toUpperCase()}`)}`,
    'Cache-Control': 'no-store',
    'X-Content-Type-Options': 'nosniff',
    'Content-Security-Policy': "default-src 'none'; sandbox",
  }
}
