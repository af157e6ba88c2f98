import type { Context } from 'hono'
import { type Answer, type AnswerCase, answerTo, type Field, ownPageOf } from '#core/form'
import type { MemberId } from '#core/ids'
import type { Member } from '#core/list'
import { plainLook } from '#core/look'
import { answerPage, type AnswerSign, noticePage, type PageContent, type Press, signOf } from '#core/render'
import type { Ledger } from '../ledger'
import { isOurs, memberIn } from '../mail'
import { sendPage } from '../pages'
import type { Published } from '../objects'
import type { Rehearsals } from '../rehearsals'
import type { Settings } from '../settings'
import { giftOnAnswer } from './gift-on-answer'
import { holderOf, type LinkHolder } from './link-holder'
import { wayBack } from './way-back'

export interface MailPageParts {
  ledger: Ledger
  rehearsals: Rehearsals
  settings: Settings
}

export interface AnswerContent extends PageContent {
  fields: readonly Field[]
  answer(one: AnswerCase): Answer
}

/** What the pages behind links in mails have in common: whom a link is about, and how they are told something. */
export type MailPages = ReturnType<typeof mailPages>

export function mailPages({ ledger, rehearsals, settings }: MailPageParts) {
  const linkKey = () => ledger.published().preferences()?.linkKey

  /** Null for a token that is none of ours. */
  async function holder(token: string, purpose: 'confirm' | 'leave' | 'gift'): Promise<LinkHolder | null> {
    const id = memberIn(token)
    const named = id === null ? null : await whoIs(id)
    if (named === null) return null
    const { joinedAt } = named.member
    return isOurs(linkKey(), token, purpose, ...(purpose === 'confirm' ? [joinedAt] : [])) ? named : null
  }

  const whoIs = (id: MemberId) => holderOf(id, ledger, rehearsals)
  const contentFor = (member: Member) => contentOf(ledger.published(), member)
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
      links: one === 'confirmed' ? await giftOnAnswer(ledger, settings.publicUrl, member, linkKey()) : [],
    })
  }

  return { linkKey, holder, whoIs, contentFor, show, nothing, answer, spent }

  /** A link of a waiting that ended long ago is known by whom it names, and no more. */
  async function spent(c: Context, token: string): Promise<Response> {
    const id = memberIn(token)
    const named = id === null ? null : await whoIs(id)
    return named === null ? nothing(c) : answer(c, named.member, 'link-expired')
  }
}

/** The version that somebody saw, or the list's own look. */
function contentOf(published: Published, member: Member): AnswerContent {
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
