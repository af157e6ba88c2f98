import { z } from 'zod'
import type { Outcome } from '#core/form'
import { listIdSchema } from '#core/ids'
import { colourSchema } from '#core/look'
import { harmlessText, plainLine, richTextSchema } from '#core/text'
import { languages } from '#core/texts'

/** The messages that a list sends by itself. */
export const messageKinds = ['confirmation', 'welcome', 'already-there', 'reminder', 'leaving'] as const
export type MessageKind = (typeof messageKinds)[number]
/** Besides them, what the owner gets, and what the owner wrote. */
export type MailKind = MessageKind | 'notice' | 'daily-notice' | 'alert' | 'letter' | 'message'

export const messageNames: Record<MessageKind, string> = {
  confirmation: 'Please confirm',
  welcome: 'Welcome',
  'already-there': 'Already on the list',
  reminder: 'A reminder to confirm',
  leaving: 'You have left',
}

/** What each mail is called, those to the owner too. */
export const mailNames: Record<MailKind, string> = {
  ...messageNames,
  notice: 'Notice to you',
  'daily-notice': 'Notice of the day',
  alert: 'Something broke: to you',
  letter: 'Letter',
  message: 'Message to you',
}

const messageSchema = z.strictObject({
  isOn: z.boolean(),
  /** One paragraph without formats. */
  subject: richTextSchema,
  text: richTextSchema,
  /** The words on the button that leads where the message is about; empty for no button. */
  button: harmlessText,
  /** What stands below the button. */
  below: richTextSchema,
})
export type Message = z.infer<typeof messageSchema>

/** An address as typed; `core/mail/check` says whether it can be used. */
const mailAddress = z
  .string()
  .max(320)
  .refine((text) => !/[\r\n\0]/.test(text), 'must be one line')
const oneLine = z.union([z.literal(''), plainLine])

/** SHA-256 of a file's bytes, in small letters. */
export const fileIdSchema = z.string().regex(/^[0-9a-f]{64}$/)
/** Largest gift, in bytes. */
export const MAX_GIFT_BYTES = 25 * 1024 * 1024

export const giftSchema = z.strictObject({
  /** What the link to it says: “The star chart”. */
  label: plainLine,
  what: z.discriminatedUnion('kind', [
    z.strictObject({
      kind: z.literal('file'),
      id: fileIdSchema,
      name: plainLine,
      type: z.string().max(100),
      size: z.int().min(1).max(MAX_GIFT_BYTES),
    }),
    z.strictObject({ kind: z.literal('address'), address: z.string().max(2_000) }),
  ]),
  /** Where it is handed over. */
  onAnswer: z.boolean(),
  inWelcome: z.enum(['no', 'link', 'attachment']),
  /** To so many people, the first ones; null for everybody. */
  firstSoMany: z.int().min(1).max(1_000_000).nullable(),
  /** How often a personal link works, and for how many days; null for no end. */
  times: z.int().min(1).max(1_000).nullable(),
  days: z.int().min(1).max(3_650).nullable(),
})
export type Gift = z.infer<typeof giftSchema>

/** A gift's file is kept in pieces, so that no text gets longer than programs like; bytes of each but the last. */
export const GIFT_PIECE_BYTES = 768 * 1024
export const giftPieceSchema = z.strictObject({
  file: fileIdSchema,
  /** Which piece it is, from 0, of how many. */
  at: z.int().min(0).max(99),
  of: z.int().min(1).max(100),
  bytes: z.base64().max((GIFT_PIECE_BYTES * 4) / 3),
})
export type GiftPiece = z.infer<typeof giftPieceSchema>

/** All that decides on a list's mail, and on who has to confirm. */
export const mailSettingsSchema = z.strictObject({
  confirm: z.enum(['never', 'always', 'regions']),
  /** Countries whose visitors confirm, ISO 3166-1 alpha-2; for `regions`. */
  regions: z.array(z.string().regex(/^[A-Z]{2}$/)).max(300),
  /** After so many days, somebody who never confirmed is removed. */
  waitingDays: z.int().min(1).max(90),
  /** Whether strangers read the same when an address is on the list already. */
  isDiscreet: z.boolean(),
  senderName: oneLine,
  senderAddress: mailAddress,
  /** Where answers go; empty for the sender's own address. */
  replyTo: mailAddress,
  /** Where reports of what could not be delivered go; empty for the sender's own address. */
  bounceAddress: mailAddress,
  postalAddress: z.string().max(500),
  language: z.enum(languages),
  colours: z.strictObject({ ground: colourSchema, text: colourSchema, button: colourSchema, buttonText: colourSchema }),
  messages: z.strictObject({
    confirmation: messageSchema,
    welcome: messageSchema,
    'already-there': messageSchema,
    reminder: messageSchema,
    leaving: messageSchema,
  }),
  notice: z.strictObject({ when: z.enum(['never', 'each', 'daily']), address: mailAddress }),
  gift: giftSchema.nullable(),
})
export type MailSettings = z.infer<typeof mailSettingsSchema>

/** A list's mail as its owner works on it, and as it is sent. */
export const mailSchema = z.strictObject({
  list: listIdSchema,
  draft: mailSettingsSchema,
  published: mailSettingsSchema.nullable(),
})
export type Mail = z.infer<typeof mailSchema>

/** Which messages are ever sent with these settings. */
export function messagesInUse({ confirm, isDiscreet, messages }: MailSettings): MessageKind[] {
  return messageKinds.filter((kind) => {
    if (kind === 'confirmation') return confirm !== 'never'
    if (kind === 'reminder') return confirm !== 'never' && messages.reminder.isOn
    if (kind === 'already-there') return isDiscreet
    return messages[kind].isOn
  })
}

/** What a post of a form can be answered with when its list sends mail so; null for a list that sends none. */
export function outcomesWith(settings: MailSettings | null): Outcome[] {
  const { confirm = 'never', isDiscreet = false } = settings ?? {}
  return [
    ...(confirm === 'always' ? [] : (['joined'] as const)),
    ...(confirm === 'never' ? [] : (['confirm-first'] as const)),
    ...(isDiscreet ? [] : (['already-on-list'] as const)),
  ]
}

/** Whether somebody has to confirm by mail. Unknown counts as inside. */
export function mustConfirm(
  { confirm, regions }: Pick<MailSettings, 'confirm' | 'regions'>,
  country: string | null,
): boolean {
  if (confirm !== 'regions') return confirm === 'always'
  return country === null || regions.includes(country)
}
