import { type EmailAddress, readTyped } from '#core/email'
import { type Field, honeypotName, isBox, type Version } from '#core/form'
import type { ArrivalId, MemberId } from '#core/ids'
import type { CameFrom, Consent, NewEntry, Verdict } from '#core/journal'
import type { Member } from '#core/list'
import { type MailSettings, mustConfirm } from '#core/mail'
import type { Whereabouts } from '#core/region'
import type { Spot } from '#core/spot'
import { keepableText, MAX_VALUE_LENGTH, plainText } from '#core/text'
import { textsOf } from '#core/texts'
import { isZone } from '#core/zone'
import { cameFrom } from './came-from'
import { joinsBy, type Written, writtenIn } from './message'
import { told } from './told'
import { chosenIn, fieldErrors, type FieldError, isAsked, MAX_LINE_LENGTH, type PostedValues, valueIn } from './rules'

/** One sign-up, checked against the version that the visitor saw but not yet against the list. */
export interface SignUp {
  spot: Spot
  version: Version
  /** Held back: by the trap, or by what `stopped` names. */
  isBot: boolean
  stopped?: 'too-fast' | 'throw-away'
  email: EmailAddress | null
  /** By list column, empty answers left out. */
  values: Record<string, string>
  tags: string[]
  consents: Consent[]
  /** By key of the field: what a later answer passes on and no column keeps. */
  passed: Record<string, string>
  cameFrom: CameFrom | null
  page: string
  /** What decides, with some lists, on whether the address has to be confirmed by mail. */
  whereabouts: Whereabouts
  /** What somebody wrote to the owner; null where the form takes no messages. */
  message: Written | null
  /** Where messages of this form go now, which code of before does not know; missing for where its version says. */
  messagesTo?: string
  /** Whether it is a sign-up at all: by a form that takes messages, only for who ticked its box. */
  joins: boolean
  /** The network that it came from, for the receipt. */
  network?: string
}

/** Whom a form's guard holds back. */
export interface Guarding {
  /** Whether a domain gives mailboxes that are thrown away. */
  isThrowAway?(domain: string): boolean
  /** Whether the guard is not for this address: made-up people are as fast as they are. */
  isSpared?(compared: string): boolean
}

export type Reading = { ok: true; signUp: SignUp } | { ok: false; errors: FieldError[] }

/**
 * First half of the verdict: is this an answer to this form at all? A filled honeypot is a bot's and is never refused,
 * so that the bot learns nothing. Now and then it is a person's, whose site showed the trap or whose browser filled it
 * in: an answer that is whole otherwise is kept whole, for the owner to let in.
 */
export function readSignUp(
  { spot, version }: { spot: Spot; version: Version },
  posted: PostedValues,
  page: string,
  { isThrowAway = () => false, isSpared = () => false }: Guarding = {},
): Reading {
  const { fields, language, texts } = version.content
  const read = readTyped(valueIn(posted, 'email'))
  const shared = {
    spot,
    version,
    email: typeof read === 'string' ? null : read,
    page,
    cameFrom: knownOrigin(spot, posted, page),
    whereabouts: { country: countryTold(fields, posted), zone: valueIn(posted, 'askbox-zone').slice(0, 60) },
    message: writtenIn(version.content, posted, page),
    joins: joinsBy(version.content, posted),
  }
  const isTrapped = valueIn(posted, honeypotName(version.form)) !== ''
  const stopped =
    isTrapped || typeof read === 'string' ? null : stoppedBy(version, posted, read, { isThrowAway, isSpared })
  const isBot = isTrapped || stopped !== null
  const errors = fieldErrors(fields, posted, textsOf(language, texts))
  if (errors.length > 0)
    return isTrapped
      ? { ok: true, signUp: { ...shared, isBot, values: {}, tags: [], consents: [], passed: {} } }
      : { ok: false, errors }
  const asked = fields.filter((field) => isAsked(field, fields, posted))
  return {
    ok: true,
    signUp: {
      ...shared,
      isBot,
      ...(stopped !== null && { stopped }),
      values: valuesOf(asked, posted, page),
      tags: tagsOf(version.content, asked, posted),
      consents: consentsOf(asked, posted),
      passed: passedLater(version.content, asked, posted, page),
    },
  }
}

/** Answers to whom a mail's link leads: what they pass on was typed long before. */
const BEHIND_LINKS = ['confirmed', 'link-expired', 'left'] as const

/** What such an answer passes on of this sign-up that no column keeps: boxes, and fields without a column. */
function passedLater(
  { answers }: Version['content'],
  asked: readonly Field[],
  posted: PostedValues,
  page: string,
): Record<string, string> {
  const keys = new Set(
    BEHIND_LINKS.flatMap((one) => (answers[one]?.show === 'address' ? (answers[one].pass ?? []) : [])),
  )
  return Object.fromEntries(
    asked
      .filter(
        (field) =>
          keys.has(field.key) && field.kind !== 'email' && (isBox(field) || !('column' in field) || !field.column),
      )
      .map((field) => [field.key, keepableText(told(field, posted, page), MAX_VALUE_LENGTH)] as const)
      .filter(([, value]) => value !== ''),
  )
}

/** What of the form's guard holds somebody back. */
function stoppedBy(
  { content: { guard } }: Version,
  posted: PostedValues,
  { compared }: EmailAddress,
  { isThrowAway, isSpared }: Required<Guarding>,
): 'too-fast' | 'throw-away' | null {
  if (guard === undefined || isSpared(compared)) return null
  const seconds = valueIn(posted, 'askbox-seconds')
  if (seconds !== '' && Number(seconds) < guard.leastSeconds) return 'too-fast'
  return guard.noThrowAway && isThrowAway(compared.slice(compared.lastIndexOf('@') + 1)) ? 'throw-away' : null
}

/**
 * By column. Two fields that fill one column give one text. A value that the visitor did not type (a hidden field's,
 * from the page's address) cannot be mended by the visitor, so what cannot be kept of it is left out here.
 */
function valuesOf(asked: readonly Field[], posted: PostedValues, page: string): Record<string, string> {
  const values = new Map<string, string>()
  for (const field of asked) {
    if (field.kind === 'email' || field.column === '') continue
    const value = told(field, posted, page)
    if (value === '') continue
    const before = values.get(field.column)
    values.set(field.column, keepableText(before === undefined ? value : `${before}, ${value}`, MAX_VALUE_LENGTH))
  }
  return Object.fromEntries([...values].filter(([, value]) => value !== ''))
}

/** The country that the form asks for, where it asks for one. */
function countryTold(fields: readonly Field[], posted: PostedValues): string {
  const address = fields.find(({ kind }) => kind === 'address')
  return address === undefined ? '' : valueIn(posted, `${address.key}-country`)
}

/** Those that the form gives everybody, those of the choices that were made, and topics by their names. */
function tagsOf(content: Version['content'], asked: readonly Field[], posted: PostedValues): string[] {
  const chosen = asked.flatMap((field) => {
    if (field.kind !== 'topics' && field.kind !== 'choose-one' && field.kind !== 'choose-several') return []
    const keys = chosenIn(field, posted)
    return field.choices
      .filter(({ key }) => keys.includes(key))
      .map(({ label, tag = '' }) => (field.kind === 'topics' ? label : tag).trim())
  })
  return [...new Set([...(content.tags ?? []), ...chosen].filter(Boolean))]
}

function consentsOf(asked: readonly Field[], posted: PostedValues): Consent[] {
  return asked.flatMap((field) =>
    isBox(field) && valueIn(posted, field.key) ? [{ field: field.key, wording: plainText(field.wording) }] : [],
  )
}

/** What the visitors' script told, and what the spot or the link is marked with. Nobody could mend it, so what cannot be kept is left out. */
function knownOrigin(spot: Spot, posted: PostedValues, page: string): CameFrom | null {
  const told = (name: string) => keepableText(valueIn(posted, name), MAX_LINE_LENGTH)
  const ofPage = page.includes('?') ? cameFrom(page, '') : null
  const known = {
    source: told('askbox-source') || (ofPage?.source ?? '') || (spot.source ?? ''),
    referrer: webAddress(told('askbox-referrer')),
    campaign: told('askbox-campaign') || (ofPage?.campaign ?? ''),
  }
  const filled = Object.entries(known).filter(([, value]) => value !== '')
  return filled.length === 0 ? null : Object.fromEntries(filled)
}

/** Without what follows a question mark, which may name a person; empty for anything but a web address. */
function webAddress(text: string): string {
  if (text === '') return ''
  const cached = webAddresses.get(text)
  if (cached !== undefined) return cached
  if (webAddresses.size >= MOST_KNOWN) webAddresses.clear()
  const read = readWebAddress(text)
  webAddresses.set(text, read)
  return read
}

function readWebAddress(text: string): string {
  try {
    const { protocol, origin, pathname } = new URL(text)
    return protocol === 'https:' || protocol === 'http:' ? origin + pathname : ''
  } catch {
    return ''
  }
}

/** Most visitors come from the same few places, and reading an address costs more than the rest of a verdict. */
const webAddresses = new Map<string, string>()
const MOST_KNOWN = 500

/** How the list stands towards a sign-up at the moment it is stored, and the ids to use if it is new. */
export interface ListState {
  member: Member | null
  newMember: MemberId
  newArrival: ArrivalId
  at: string
  /** The list's mail as it is sent; null where it sends none. */
  mail: MailSettings | null
  /** Where the visitor is, as far as the list's rule asks for it: ISO 3166-1 alpha-2; null for unknown. */
  country: string | null
}

/** Second half: the verdict, given who is on the list already. Someone who left or was removed may join again. */
export function verdictOn(signUp: SignUp, list: ListState): NewEntry & { kind: 'arrival'; verdict: Verdict } {
  const { member, mail, country } = list
  const verdict = ((): Verdict => {
    if (signUp.isBot) return 'bot'
    if (member?.status === 'confirmed') return 'already-on-list'
    const confirms = mail !== null && mustConfirm(mail, country)
    // Of a list that asks nobody to confirm any more, who waits has joined by signing up again.
    if (member?.status === 'waiting') return confirms ? 'already-waiting' : mail === null ? 'already-on-list' : 'joined'
    return confirms ? 'confirm-first' : 'joined'
  })()
  return {
    at: list.at,
    kind: 'arrival',
    id: list.newArrival,
    spot: signUp.spot.id,
    form: signUp.version.form,
    version: signUp.version.number,
    list: signUp.version.list,
    verdict,
    ...(signUp.stopped !== undefined && { stopped: signUp.stopped }),
    member: verdict === 'bot' ? null : (member?.id ?? list.newMember),
    personal: {
      email: signUp.email,
      values: signUp.values,
      tags: signUp.tags,
      consents: signUp.consents,
      ...(signUp.cameFrom !== null && { cameFrom: signUp.cameFrom }),
      ...(mail?.confirm === 'regions' && { region: country ?? '' }),
      ...(isZone(signUp.whereabouts.zone) && { zone: signUp.whereabouts.zone }),
      ...(signUp.network !== undefined && signUp.network !== '' && { network: signUp.network }),
      ...(Object.keys(signUp.passed).length > 0 && { passed: signUp.passed }),
      page: signUp.page,
    },
  }
}
