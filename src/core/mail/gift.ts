import type { Gift, Mail, MailSettings, MessageKind } from './mail'

/**
 * Whether a message hands over the gift, or a link to it. On a discreet list it goes by mail alone, for a page with it
 * would tell who was not on the list yet.
 */
export function gifts({ gift, isDiscreet }: Pick<MailSettings, 'gift' | 'isDiscreet'>, kind: MessageKind): boolean {
  return kind === 'welcome' && gift !== null && (gift.inWelcome !== 'no' || (isDiscreet && gift.onAnswer))
}

/** Whether the page that answers a sign-up hands it over. */
export function giftsOnAnswer({ gift, isDiscreet }: Pick<MailSettings, 'gift' | 'isDiscreet'>): boolean {
  return gift !== null && gift.onAnswer && !isDiscreet
}

/** Whether a link that was made at a time still works. */
export function isGiftOpen({ days, times }: Gift, since: string, downloads: number, now: number): boolean {
  const isInTime = days === null || now <= Date.parse(since) + days * 86_400_000
  return isInTime && (times === null || downloads < times)
}

/** How large, for people: “1.4 MB”. */
export function sizeWords(bytes: number): string {
  return bytes >= 1_000_000 ? `${(bytes / 1_000_000).toFixed(1)} MB` : `${Math.max(1, Math.round(bytes / 1_000))} KB`
}

/** Whether anything at all is handed over to who joins. */
export function handsOver({ gift }: MailSettings): boolean {
  return gift !== null && (gift.onAnswer || gift.inWelcome !== 'no')
}

/** The files that a list's mail names, as it is written and as it is published, by the SHA-256 of their bytes. */
export function giftFilesOf({ draft, published }: Mail): string[] {
  return [draft.gift, published?.gift].flatMap((gift) => (gift?.what.kind === 'file' ? [gift.what.id] : []))
}
