import type { Context } from 'hono'
import { type Answer, type AnswerCase, answerTo, type Field, ourAnswer, ownPageOf } from '#core/form'
import type { MemberId } from '#core/ids'
import type { Member } from '#core/list'
import { plainLook } from '#core/look'
import { answerPage, type AnswerSign, noticePage, type PageContent, type Press, signOf } from '#core/render'
import type { Ledger } from '../ledger'
import { isOfWaiting, namedBy } from '../mail'
import { sendPage } from '../pages'
import type { Published } from '../objects'
import type { Rehearsals } from '../rehearsals'
import type { Settings } from '../settings'
import { giftOnAnswer } from './gift-on-answer'
import { holderOf, type LinkHolder } from './link-holder'
import { sendOnward } from './onward'
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
  /** Null for a token that is none of ours; `isOver` for one of a waiting that ended. */
  async function holder(
    token: string,
    purpose: 'confirm' | 'leave' | 'gift',
  ): Promise<(LinkHolder & { isOver: boolean }) | null> {
    const keys = await ledger.linkKeys()
    const id = namedBy(keys, token, purpose)
    const held = id === null ? null : await whoIs(id)
    if (held === null) return null
    return { ...held, isOver: purpose === 'confirm' && !isOfWaiting(keys, token, held.member) }
  }

  const whoIs = (id: MemberId) => holderOf(id, ledger, rehearsals)
  const contentFor = (member: Member) => contentOf(ledger.published(), member)
  const backFor = (c: Context, { from }: Member) => {
    const spot = from === null ? undefined : ledger.published().spot(from.spot)
    return spot === undefined ? null : wayBack(ledger, spot, c)
  }
  const show = (
    c: Context,
    member: Member,
    said: Pick<Answer, 'heading' | 'message'>,
    more: {
      presses?: readonly Press[]
      links?: { address: string; words: string }[]
      sign?: AnswerSign | null
      status?: 200 | 404 | 410
    } = {},
  ) =>
    sendPage(c, settings.publicUrl, answerPage(said, contentFor(member), backFor(c, member), more), {
      posts: 'to-us',
      status: more.status ?? 200,
      inFrames: false,
    })

  const nothing = (c: Context) =>
    sendPage(
      c,
      settings.publicUrl,
      noticePage('This link leads nowhere', 'It may be incomplete: copy all of it from the mail.'),
      { posts: 'nothing', status: 404, inFrames: false },
    )

  /** The answer of a case: on a page of ours, or at the owner's. */
  const answer = async (c: Context, member: Member, one: AnswerCase, presses: readonly Press[] = []) => {
    const { fields, ...content } = contentFor(member)
    const said = content.answer(one)
    const own = ownPageOf(said, (key) => {
      const field = fields.find((one) => one.key === key)
      if (field?.kind === 'email') return member.email.typed
      return ownValue(member.passed, key) || ownValue(member.values, field?.column ?? '')
    })
    if (own !== null)
      return sendOnward(c, settings.publicUrl, own, {
        said: ourAnswer(one, content.language, false),
        content,
        sign: signOf(one),
        mayBeFramed: false,
      })
    return show(c, member, said, {
      presses,
      sign: signOf(one),
      links: one === 'confirmed' ? await giftOnAnswer(ledger, settings.publicUrl, member) : [],
    })
  }

  return { holder, whoIs, contentFor, show, nothing, answer }
}

/** Owners choose keys of fields and columns, `constructor` too. */
function ownValue(values: Record<string, string> | undefined, key: string): string {
  return values !== undefined && Object.hasOwn(values, key) ? (values[key] ?? '') : ''
}

/** The version that somebody saw, or the list's own look. */
function contentOf(published: Published, member: Member): AnswerContent {
  const version =
    member.from === null
      ? undefined
      : (published.version(member.from.form, member.from.version) ?? published.latestVersion(member.from.form))
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
  const none = { answers: {}, language }
  return { look, language, texts: {}, fields: [], answer: (one) => answerTo(none, one) }
}
