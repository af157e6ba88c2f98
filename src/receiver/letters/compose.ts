import { type LetterContent, type LetterFacts, type RenderedLetter, renderLetter } from '#core/letter'
import { type List, type Member, valueOf } from '#core/list'
import type { MailSettings } from '#core/mail'
import type { Ledger } from '../ledger'
import { type ComposedMail, type ComposeParts, envelopeOf, linksOf, listHeaders, NotNeeded } from '../mail'
import type { Settings } from '../settings'
import { countedLink, webCopyToken } from './links'
import type { StoredSending } from './tables'

/** Who reads a letter: a member, or whoever has the link to its copy. */
export interface LetterReader {
  member: Member | null
  /** Whether it is read in the browser. */
  isWebCopy?: boolean
  /** Whether nothing is counted: of tests. */
  isTest?: boolean
}

/** The mail of a letter's list as it is sent, and the list through which somebody gets it. */
export function senderOf(
  ledger: Ledger,
  content: Pick<LetterContent, 'lists'>,
  through: string | null,
): { list: List; settings: MailSettings } | null {
  const published = ledger.published()
  const first = content.lists[0]!
  const settings = published.mail(first)
  const list = (through === null ? null : published.list(through)) ?? published.list(first)
  return settings === null || list === null ? null : { list, settings }
}

/** A letter as one reader gets it, from the words of that moment. Null where its list sends no mail any more. */
export async function writeLetter(
  ledger: Ledger,
  { publicUrl }: Pick<Settings, 'publicUrl'>,
  { id, content }: Pick<StoredSending, 'id'> & { content: LetterContent },
  { member, isWebCopy = false, isTest = false }: LetterReader,
): Promise<{ rendered: RenderedLetter; list: List; settings: MailSettings; leaveLink: string | null } | null> {
  const from = senderOf(ledger, content, member?.list ?? null)
  if (from === null) return null
  const keys = await ledger.linkKeys()
  const leaveLink =
    member === null
      ? null
      : `${linksOf(keys, publicUrl, member).leave}${isTest ? '' : `?letter=${id}${isWebCopy ? '&copy' : ''}`}`
  const counted = content.countsLinks && !isTest ? await ledger.letters.linkNumbers(id) : null
  const facts: LetterFacts = {
    firstName: member === null ? '' : valueOf(member, 'first-name').slice(0, 100),
    leaveLink,
    webCopy: isWebCopy || isTest ? null : `${publicUrl}/letter/${webCopyToken(keys, id, member?.id ?? null)}`,
    pictureAddress: (picture) => `${publicUrl}/picture/${picture}`,
    pageOf: (spot) => `${publicUrl}/page/${spot}`,
    ...(counted !== null && {
      linkTo: (address: string) => {
        const number = counted.get(address)
        return number === undefined || address.startsWith(`${publicUrl}/`)
          ? address
          : countedLink(keys, publicUrl, id, { number, address })
      },
    }),
  }
  return { ...from, leaveLink, rendered: renderLetter(content, { ...from, facts }) }
}

/** Composes a letter's mail to a member, for the sender of mails. */
export function letterComposer(ledger: Ledger, settings: Settings): NonNullable<ComposeParts['letter']> {
  return async (mail, member) => {
    const stored = await ledger.letters.contentFor(mail.sending ?? '', null)
    if (stored === null) throw new NotNeeded('The letter was taken away.')
    const { sending, content } = stored
    if (sending.state === 'cancelled') throw new NotNeeded('The rest of the letter was cancelled.')
    const written = await writeLetter(ledger, settings, { id: sending.id, content }, { member })
    if (written === null) throw new NotNeeded('The list sends no mail any more.')
    ledger.letters.composed(mail.id, sending.mended)
    return letterMail(written, {
      id: mail.id,
      to: mail.recipient,
      date: new Date(Math.max(mail.queued, mail.due)),
    })
  }
}

/** The mail of a letter that was written for somebody. */
export function letterMail(
  { rendered, list, settings, leaveLink }: NonNullable<Awaited<ReturnType<typeof writeLetter>>>,
  named: { id: string; to: string; date?: Date },
): ComposedMail {
  const { subject, html, text } = rendered
  return {
    ...envelopeOf(settings, list, named),
    ...{ subject, text },
    ...(html !== null && { html }),
    // A list's, and no automatic answer: vacation notices know it by this (RFC 3834, section 2; common practice).
    headers: { Precedence: 'list', ...listHeaders(settings, list, leaveLink) },
  }
}
