import { type Context, Hono } from 'hono'
import { meantAddress, parseEmail } from '#core/email'
import { type Answer, type AnswerCase, answerTo, type Field, ownPageOf } from '#core/form'
import type { CommandId, MemberId } from '#core/ids'
import type { Member } from '#core/list'
import { type Gift, giftsOnAnswer, isGiftOpen } from '#core/mail'
import { plainLook } from '#core/look'
import { answerPage, type AnswerSign, noticePage, type PageContent, type Press, puzzlePage, signOf } from '#core/render'
import type { SignUp } from '#core/signup'
import { addressProblem } from '#core/site'
import { filledIn, answerTextsOf } from '#core/texts'
import type { GiftFiles } from '../gifts'
import type { Ledger } from '../ledger'
import type { PeopleLedger } from '../people'
import type { Causes } from '../limits'
import { type AnsweredSignUp, isOurs, linksOf, memberIn, signUpIn } from '../mail'
import { sendProblem } from '../http/problem'
import type { Puzzles } from '../puzzle'
import { newId } from '../random'
import { sendPage } from '../pages'
import { readSmallForm } from '../http/read-body'
import type { Rehearsals } from '../rehearsals'
import type { Settings } from '../settings'
import { visitorAddress } from '../http/visitor-address'
import { outcomeOf } from './join'
import { wayBack } from './way-back'

/** How long another address may take the place of one that looks like a slip. */
const SLIP_MS = 30 * 60_000

export interface MailRouteParts {
  ledger: Ledger
  rehearsals: Rehearsals
  settings: Settings
  gifts: GiftFiles
  puzzles: Puzzles
  causes: Causes
  /** Told of a list whose mail somebody real read. */
  followed(list: string): Promise<void>
  now(): number
}

/**
 * What links in mails lead to: `GET and POST /confirm/:token`, `GET and POST /leave/:token`,
 * `GET and POST /gift/:token`, and `POST /resend/:spot`. Opening a link changes nothing, whoever opens it and with whatever program: what it is about
 * takes a press there, or the post of RFC 8058.
 */
export function mailRoutes({
  ledger,
  rehearsals,
  settings,
  gifts,
  puzzles,
  causes,
  followed,
  now,
}: MailRouteParts): Hono {
  const routes = new Hono()
  const linkKey = () => ledger.published().preferences()?.linkKey

  /** Who a token is about, and in whose ledger; null when it is none of ours. */
  async function holder(
    token: string,
    purpose: 'confirm' | 'leave' | 'gift',
  ): Promise<{ people: PeopleLedger; member: Member } | null> {
    const id = memberIn(token)
    const named = id === null ? null : await whoIs(id)
    if (named === null) return null
    const { joinedAt } = named.member
    return isOurs(linkKey(), token, purpose, ...(purpose === 'confirm' ? [joinedAt] : [])) ? named : null
  }
  /** Somebody real, or a rehearsal's made-up person. */
  async function whoIs(id: MemberId): Promise<{ people: PeopleLedger; member: Member } | null> {
    for (const people of [ledger, ...(await rehearsals.spaces())]) {
      const member = await people.member(id)
      if (member !== null) return { people, member }
    }
    return null
  }

  /**
   * Signs up the address that was meant in place of one that looks like a slip: of a sign-up of this half hour, and no other
   * address than the one that was offered. What was typed is off the list and gets no mail, not even that it is off.
   */
  async function replaceSlip(
    { at, answerCase }: AnsweredSignUp,
    member: Member,
    { instead, zone }: { instead: string; zone: string },
    visitor: string,
  ): Promise<boolean> {
    const parsed = parseEmail(instead)
    const published = ledger.published()
    const { from, list } = member
    const spot = from === null ? undefined : published.spot(from.spot)
    const version = from === null ? undefined : published.version(from.form, from.version)
    const isOffered = parsed.ok && meantAddress(member.email.typed) === parsed.email.compared
    const isFresh = now() - at < SLIP_MS && (answerCase === 'joined' || answerCase === 'confirm-first')
    if (!parsed.ok || !isOffered || !isFresh || from === null || spot === undefined || version === undefined)
      return false
    // A member who acted since is not the one who just typed.
    const [arrival] = (await ledger.entriesAfter(member.revision - 1, null, 1))?.items ?? []
    if (arrival?.kind !== 'arrival' || arrival.member !== member.id || arrival.personal === null) return false
    const { values, consents = [], page, network, cameFrom = null } = arrival.personal
    const signUp: SignUp = {
      ...{ spot, version, isBot: false, email: parsed.email, values, tags: [...(member.tags ?? [])], consents, page },
      ...{
        message: null,
        joins: true,
        cameFrom,
        whereabouts: { country: '', zone },
        ...(network !== undefined && { network }),
      },
    }
    await ledger.signUp(signUp, `instead ${member.id}`, causes.take(visitor, parsed.email.compared))
    await ledger.carryOut([
      { kind: 'remove-member', id: newId<CommandId>(), list, member: member.id, revision: member.revision },
    ])
    return true
  }

  /** The version that somebody saw, or the list's own look. */
  function contentFor(member: Member): PageContent & { fields: readonly Field[]; answer(one: AnswerCase): Answer } {
    const published = ledger.published()
    const version =
      member.from === null
        ? undefined
        : (published.latestVersion(member.from.form) ?? published.version(member.from.form, member.from.version))
    if (version !== undefined) return { ...version.content, answer: (one) => answerTo(version.content, one) }
    const mail = published.mail(member.list)
    const language = mail?.language ?? 'en'
    const look =
      mail === null
        ? plainLook
        : {
            ...plainLook,
            colours: {
              ...plainLook.colours,
              background: mail.colours.ground,
              text: mail.colours.text,
              button: mail.colours.button,
              buttonText: mail.colours.buttonText,
            },
          }
    const none = { answers: {} as never, language }
    return { look, language, texts: {}, fields: [], answer: (one) => answerTo(none, one) }
  }
  const backFor = ({ from }: Member) => {
    const spot = from === null ? undefined : ledger.published().spot(from.spot)
    return spot === undefined ? null : wayBack(ledger, spot)
  }
  const show = (
    c: Context,
    member: Member,
    said: Pick<Answer, 'heading' | 'message'>,
    more: {
      press?: Press | null
      links?: { address: string; words: string }[]
      sign?: AnswerSign | null
      status?: 200 | 404 | 410
    } = {},
  ) =>
    sendPage(c, settings.publicUrl, answerPage(said, contentFor(member), backFor(member), more), {
      status: more.status ?? 200,
      inFrames: false,
    })
  const nothing = (c: Context) =>
    sendPage(
      c,
      settings.publicUrl,
      noticePage('This link leads nowhere', 'It may be incomplete: copy all of it from the mail.'),
      { status: 404, inFrames: false },
    )
  /** The answer of a case: on a page of ours, or at the owner's. */
  const answer = async (c: Context, member: Member, one: AnswerCase, press: Press | null = null) => {
    const { fields, ...content } = contentFor(member)
    const said = content.answer(one)
    const own = ownPageOf(said, (key) => {
      const column = fields.find((field) => field.key === key)?.column ?? ''
      return column === 'email' ? member.email.typed : (member.values[column] ?? '')
    })
    if (own !== null) return c.redirect(own, 303)
    return show(c, member, said, {
      press,
      sign: signOf(one),
      links: one === 'confirmed' ? await giftLinks(member) : [],
    })
  }
  const giftLinks = (member: Member) => giftOnAnswer(ledger, settings.publicUrl, member, linkKey())

  routes.get('/confirm/:token', async (c) => {
    const link = await holder(c.req.param('token'), 'confirm')
    if (link === null) return spent(c, c.req.param('token'))
    const { member } = link
    if (member.status !== 'waiting')
      return answer(c, member, member.status === 'confirmed' ? 'confirmed' : 'link-expired')
    const { confirmPage, confirm } = answerTextsOf(contentFor(member).language)
    const heading = filledIn(confirmPage.heading, { list: ledger.published().list(member.list)?.name ?? '' })
    return show(
      c,
      member,
      { ...confirmPage, heading },
      {
        press: { action: `/confirm/${c.req.param('token')}`, words: confirm, isMain: true },
      },
    )
  })
  routes.post('/confirm/:token', async (c) => {
    const link = await holder(c.req.param('token'), 'confirm')
    if (link === null) return spent(c, c.req.param('token'))
    const { people, member } = link
    const outcome = await people.confirm(member.id, member.joinedAt)
    if (outcome === 'confirmed' && people === ledger) await followed(member.list)
    return answer(c, (await people.member(member.id)) ?? member, outcome === 'expired' ? 'link-expired' : 'confirmed')
  })
  /** A link of a waiting that ended long ago is known by whom it names, and no more. */
  const spent = async (c: Context, token: string) => {
    const id = memberIn(token)
    const named = id === null ? null : await whoIs(id)
    return named === null ? nothing(c) : answer(c, named.member, 'link-expired')
  }

  /** With the letter whose link was followed, so that it is known by which they left. */
  const leaveAction = (c: Context) => {
    const letter = /^[a-z0-9]{4,32}$/.exec(c.req.query('letter') ?? '')?.[0]
    return `/leave/${c.req.param('token')}${letter === undefined ? '' : `?letter=${letter}`}`
  }

  routes.get('/leave/:token', async (c) => {
    const link = await holder(c.req.param('token'), 'leave')
    if (link === null) return nothing(c)
    const { member } = link
    const texts = answerTextsOf(contentFor(member).language)
    const list = ledger.published().list(member.list)?.name ?? ''
    const action = leaveAction(c)
    const isBack = c.req.query('back') !== undefined
    if (member.status === 'left') {
      const press = { action, words: texts.comeBack, values: { 'askbox-do': 'come-back' }, isMain: isBack }
      // Who comes for the way back finds it, wherever else leaving leads to.
      return isBack ? show(c, member, texts.left, { press }) : answer(c, member, 'left', press)
    }
    if (member.status !== 'confirmed' && member.status !== 'waiting') return answer(c, member, 'left')
    if (isBack) return show(c, member, texts.returned)
    const { heading, message } = texts.leavePage
    return show(
      c,
      member,
      { heading: filledIn(heading, { list }), message },
      { press: { action, words: texts.leave, values: { 'askbox-do': 'leave' }, isMain: true } },
    )
  })
  routes.post('/leave/:token', async (c) => {
    const link = await holder(c.req.param('token'), 'leave')
    if (link === null) return nothing(c)
    const { people, member } = link
    const body = await readSmallForm(c)
    const isOneClick = body.get('List-Unsubscribe') === 'One-Click'
    if (!isOneClick && body.get('askbox-do') === 'come-back') {
      await people.comeBack(member.id)
      return show(c, member, answerTextsOf(contentFor(member).language).returned)
    }
    if (!isOneClick && body.get('askbox-do') !== 'leave') return c.redirect(leaveAction(c), 303)
    const hasLeft = await people.leave(member.id, isOneClick ? 'one-click' : 'page')
    const letter = c.req.query('letter')
    if (hasLeft && people === ledger && letter !== undefined) await ledger.letters.leftBy(letter, member.id)
    // RFC 8058, section 3.1: nobody reads an answer, and none is to be followed.
    if (isOneClick) return c.text('Left.', 200, { 'Cache-Control': 'no-store' })
    return answer(c, member, 'left', {
      action: leaveAction(c),
      words: answerTextsOf(contentFor(member).language).comeBack,
      values: { 'askbox-do': 'come-back' },
      isMain: false,
    })
  })

  routes.post('/resend/:spot', async (c) => {
    const spot = ledger.published().spot(c.req.param('spot'))
    const version = spot && ledger.published().latestVersion(spot.form)
    if (spot === undefined || version === undefined) return nothing(c)
    const { content } = version
    const body = await readSmallForm(c)
    const token = body.get('askbox-again') ?? ''
    const signUp = signUpIn(linkKey(), token, spot.id)
    const named = signUp === null ? null : await whoIs(signUp.member)
    // Our script asks from the page that the form stands on.
    c.header('Access-Control-Allow-Origin', '*')
    const { heading } = answerTo(content, 'confirm-first')
    const texts = answerTextsOf(content.language)
    const say = (message: string, status: 200 | 429 = 200) =>
      sendPage(c, settings.publicUrl, answerPage({ heading, message }, content, wayBack(ledger, spot)), { status })
    // The same is said of everybody else's token as of one's own, whether anything is sent or not.
    if (signUp === null || named === null) return say(texts.sentAgain)
    const { people, member } = named
    const instead = body.get('askbox-instead')
    if (instead !== null && instead !== undefined)
      return (await replaceSlip(
        signUp,
        member,
        { instead, zone: (body.get('askbox-zone') ?? '').slice(0, 60) },
        visitorAddress(c, settings.trustedProxies),
      ))
        ? c.json({ outcome: outcomeOf(signUp.answerCase) }, 200)
        : sendProblem(c, { status: 422, title: 'Not taken', detail: 'This address cannot take its place any more.' })
    const { isFlood } = causes.take(visitorAddress(c, settings.trustedProxies), member.email.compared)
    const isHeld = signUp.isMailHeld || isFlood
    if (!isHeld && (await people.sendAgain(signUp.member)) !== 'held') return say(texts.sentAgain)
    // Beyond the share of an inbox, or of a flood: for who is there, and only one.
    const solution = body.get('askbox-puzzle')
    if (solution === undefined) {
      const page = puzzlePage(content, {
        action: `${settings.publicUrl}/resend/${spot.id}`,
        script: `${settings.publicUrl}/puzzle.js`,
        puzzle: JSON.stringify(await puzzles.make(spot.id)),
        values: [['askbox-again', token]],
        wayBack: wayBack(ledger, spot),
      })
      return sendPage(c, settings.publicUrl, page, { status: 429, formTargets: [settings.publicUrl], withScript: true })
    }
    const isSolved = await puzzles.isSolved(solution, spot.id, `resend ${token}`)
    return isSolved && (await people.sendAgain(signUp.member, true)) !== 'held'
      ? say(texts.sentAgain)
      : say(texts.mailHeldToday, 429)
  })

  /** Where a link works so many times, opening it must not count: mail scanners do. */
  routes.get('/gift/:token', async (c) => {
    const open = await giftBehind(c)
    if (open instanceof Response) return open
    return open.gift.times === null
      ? handOver(c, open)
      : show(
          c,
          open.member,
          { heading: open.gift.label, message: '' },
          {
            press: {
              action: `/gift/${c.req.param('token')}`,
              words: answerTextsOf(contentFor(open.member).language).takeGift,
              isMain: true,
            },
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
  function giftOver(c: Context, member: Member): Response {
    return show(c, member, answerTextsOf(contentFor(member).language).giftOver, { status: 410 })
  }
  async function handOver(c: Context, { gift, member }: { gift: Gift; member: Member }): Promise<Response> {
    const counts = c.req.method !== 'HEAD'
    if (gift.what.kind === 'address') {
      if (addressProblem(gift.what.address) !== null) return nothing(c)
      if (counts && !(await ledger.takeDownload(member.id, gift.times))) return giftOver(c, member)
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

/** The link to the gift for the answer page, where it is handed over there. */
export async function giftOnAnswer(
  ledger: Ledger,
  publicUrl: string,
  member: Member,
  linkKey: string | undefined,
): Promise<{ address: string; words: string }[]> {
  const mail = ledger.published().mail(member.list)
  const gift = mail?.gift ?? null
  if (mail === null || gift === null || !giftsOnAnswer(mail) || linkKey === undefined || member.status !== 'confirmed')
    return []
  if (gift.firstSoMany !== null && !(await ledger.isAmongFirst(member, gift.firstSoMany))) return []
  return [{ address: linksOf(linkKey, publicUrl, member).gift, words: gift.label }]
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
