import { parseEmail } from '#core/email'
import { contrast, TEXT_CONTRAST } from '#core/look'
import { addressProblem } from '#core/site'
import { placeholdersIn, plainText, saysNothing } from '#core/text'
import { gifts } from './gift'
import { type MailSettings, type MessageKind, messageNames, messagesInUse } from './mail'

export interface MailProblem {
  code: string
  /** Whether nothing can be published until it is mended. */
  stops: boolean
  about: MessageKind | 'sender' | 'confirm' | 'gift' | 'notice' | 'colours'
  message: string
  reason: string
}

/** Which messages lead somewhere, and so need their link: a button with words, or the link among the text. */
export const needsLink: readonly MessageKind[] = ['confirmation', 'reminder', 'leaving']

/** What is wrong with a list's mail before it is sent to anybody. */
export function mailProblems(settings: MailSettings): MailProblem[] {
  const inUse = messagesInUse(settings)
  return [
    ...(inUse.length > 0 || settings.notice.when !== 'never' ? senderProblems(settings) : []),
    ...inUse.flatMap((kind) => messageProblems(settings, kind)),
    ...confirmProblems(settings),
    ...colourProblems(settings, inUse),
    ...giftProblems(settings),
    ...(settings.notice.when !== 'never' && !parseEmail(settings.notice.address).ok
      ? [
          stop(
            'notice-address',
            'notice',
            'Your own address for notices is missing.',
            'A notice needs somebody to go to.',
          ),
        ]
      : []),
  ]
}

function stop(code: string, about: MailProblem['about'], message: string, reason: string): MailProblem {
  return { code, about, message, reason, stops: true }
}
function hint(code: string, about: MailProblem['about'], message: string, reason: string): MailProblem {
  return { code, about, message, reason, stops: false }
}

function senderProblems({
  senderName,
  senderAddress,
  replyTo,
  bounceAddress,
  postalAddress,
}: MailSettings): MailProblem[] {
  const sender = parseEmail(senderAddress)
  if (!sender.ok)
    return [
      stop(
        'no-sender',
        'sender',
        senderAddress.trim() === '' ? 'The sender’s address is missing.' : `“${senderAddress}” is no email address.`,
        'Every mail says from whom it is.',
      ),
    ]
  const problems: MailProblem[] = []
  const domain = domainOf(sender.email.compared)
  if (senderName.trim() === '')
    problems.push(hint('no-name', 'sender', 'The sender has no name.', 'A person’s name is opened more readily.'))
  for (const [code, address, what] of [
    ['reply', replyTo, 'address for answers'],
    ['bounce', bounceAddress, 'address for bounces'],
  ] as const)
    if (address.trim() !== '' && !parseEmail(address).ok)
      problems.push(
        stop(
          `${code}-invalid`,
          'sender',
          `The ${what}, “${address}”, is no email address.`,
          'It would stand in each mail.',
        ),
      )
  const bounce = parseEmail(bounceAddress)
  if (bounce.ok && areApart(domainOf(bounce.email.compared), domain))
    problems.push(
      hint(
        'bounce-domain',
        'sender',
        'Mail that cannot be delivered comes back to another domain than the sender’s.',
        'Mail programs trust a sender more whose returned mail goes to the same domain (for whoever looks after it: SPF alignment, RFC 7489, section 3.1.2).',
      ),
    )
  if (postalAddress.trim() === '')
    problems.push(
      hint(
        'no-postal',
        'sender',
        'No postal address stands in the mails.',
        'Some countries ask for one in letters to many.',
      ),
    )
  return problems
}

function messageProblems({ messages }: MailSettings, kind: MessageKind): MailProblem[] {
  const { subject, text, button, below } = messages[kind]
  const name = messageNames[kind]
  const problems: MailProblem[] = []
  if (plainText(subject).trim() === '' && placeholdersIn(subject).length === 0)
    problems.push(
      stop('no-subject', kind, `“${name}” has no subject.`, 'People decide by it whether they open a mail.'),
    )
  if (saysNothing(text) && placeholdersIn(text).length === 0)
    problems.push(stop('no-text', kind, `“${name}” says nothing.`, 'Its reader would get an empty mail.'))
  if (
    needsLink.includes(kind) &&
    button.trim() === '' &&
    ![...placeholdersIn(text), ...placeholdersIn(below)].includes('link')
  )
    problems.push(
      stop(
        'no-link',
        kind,
        `“${name}” has no link.`,
        'Give its button words, or put the link into its text: without it nobody could do what it asks.',
      ),
    )
  return problems
}

function confirmProblems({ confirm, regions }: MailSettings): MailProblem[] {
  return confirm === 'regions' && regions.length === 0
    ? [stop('no-regions', 'confirm', 'No region is chosen.', 'Choose whose visitors confirm, or let everybody.')]
    : []
}

function colourProblems({ colours }: MailSettings, inUse: readonly MessageKind[]): MailProblem[] {
  if (inUse.length === 0) return []
  const pairs = [
    ['The text', colours.text, colours.ground],
    ['The words on the button', colours.buttonText, colours.button],
  ] as const
  return pairs.flatMap(([what, one, other]) =>
    contrast(one, other) < TEXT_CONTRAST
      ? [
          hint(
            'contrast',
            'colours',
            `${what} of the mails is hard to read: ${contrast(one, other).toFixed(1)} to 1.`,
            'WCAG 2.2, success criterion 1.4.3, asks for 4.5 to 1.',
          ),
        ]
      : [],
  )
}

function giftProblems(settings: MailSettings): MailProblem[] {
  const { gift, messages, isDiscreet } = settings
  if (gift === null) return []
  if (gift.what.kind === 'address') {
    const problem = addressProblem(gift.what.address)
    if (problem !== null) return [stop('gift-address', 'gift', `The gift: ${problem}`, 'Its link would lead nowhere.')]
  }
  if (gifts(settings, 'welcome') && !messages.welcome.isOn)
    return [
      stop(
        'gift-no-welcome',
        'gift',
        'The gift goes with the welcome, which is off.',
        isDiscreet
          ? 'A discreet list hands it over by mail alone: on a page it would tell who was not on the list yet.'
          : 'Switch the welcome on, or hand the gift over on the answer.',
      ),
    ]
  if (gift.inWelcome === 'no' && !gift.onAnswer)
    return [
      stop('gift-nowhere', 'gift', 'The gift is handed over nowhere.', 'Choose the answer, the welcome, or both.'),
    ]
  return []
}

export function domainOf(address: string): string {
  return address.slice(address.lastIndexOf('@') + 1).toLowerCase()
}

/**
 * Whether two domains are surely of different organisations: they differ in their last two labels. Below `co.uk` and its like
 * that is not seen: the list of public suffixes would be a sixth of all that the workshop loads at first, and the receiver
 * has it when the sender is checked.
 */
function areApart(one: string, other: string): boolean {
  const lastTwo = (domain: string) => domain.split('.').slice(-2).join('.')
  return lastTwo(one) !== lastTwo(other)
}
