import { type Field, fieldTitle, type FormContent, takesMessages } from '#core/form'
import type { ArrivalId } from '#core/ids'
import type { HeldReason, NewEntry, SentMessage } from '#core/journal'
import { keepableText } from '#core/text'
import { answerIn, isAsked, MAX_LINE_LENGTH, MAX_LONG_LENGTH, type PostedValues, valueIn } from './rules'
import { told } from './told'
import type { SignUp } from './verdict'

/** A message to the owner. */
export type Written = Pick<NonNullable<SentMessage['personal']>, 'subject' | 'text' | 'answers'>

/** Whether somebody joins the list: by a form that takes messages, who ticked its box and nobody else. */
export function joinsBy(content: FormContent, posted: PostedValues): boolean {
  if (!takesMessages(content)) return true
  const box = content.fields.find(({ kind }) => kind === 'join-box')
  // Nobody joins by a word that was not understood.
  return box !== undefined && /^(on|yes|true|1)$/i.test(valueIn(posted, box.key).trim())
}

export function writtenIn(content: FormContent, posted: PostedValues, page: string): Written | null {
  if (!takesMessages(content)) return null
  const { fields } = content
  const answerOf = (kind: Field['kind']) => {
    const field = fields.find((one) => one.kind === kind)
    return field === undefined ? '' : keepableText(answerIn(field, posted), MAX_LONG_LENGTH)
  }
  return {
    subject: answerOf('subject').slice(0, MAX_LINE_LENGTH),
    text: answerOf('message'),
    answers: fields
      .filter((field) => !notTold.includes(field.kind) && isAsked(field, fields, posted))
      .map((field) => ({
        label: keepableText(fieldTitle(field), MAX_LINE_LENGTH),
        answer: keepableText(told(field, posted, page), MAX_LONG_LENGTH),
      }))
      .filter(({ answer }) => answer !== ''),
  }
}

/** Stands beside the answers. */
const notTold: readonly Field['kind'][] = ['email', 'message', 'subject', 'join-box']

/**
 * The entry of a message to the owner.
 *
 * @param held why it is held back beside what the form's guard found; null for no reason
 */
export function messageEntry(
  { spot, version, message, joins, isBot, stopped, email, cameFrom, network, page }: SignUp & { message: Written },
  { id, at, held }: { id: ArrivalId; at: string; held: HeldReason | null },
): NewEntry & { kind: 'message' } {
  const reason = isBot ? (stopped ?? 'trap') : held
  return {
    at,
    kind: 'message',
    id,
    spot: spot.id,
    form: version.form,
    version: version.number,
    list: version.list,
    member: null,
    joins,
    ...(reason !== null && { held: reason }),
    personal: {
      email,
      ...message,
      ...(cameFrom !== null && { cameFrom }),
      ...(network !== undefined && network !== '' && { network }),
      page,
    },
  }
}

/**
 * What a text is known again by when it comes from somebody else: its letters alone, of whatever case and shape. A short
 * one, which many write, only from the same address.
 */
export function alikeAs({ subject, text }: Written, compared: string): string {
  const letters = `${subject} ${text}`
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}]+/gu, '')
  return letters.length < SHORT_LETTERS ? `${compared} ${letters}` : letters
}
const SHORT_LETTERS = 40
/** Within so many days, so many of one text go to the owner. */
export const ALIKE_DAYS = 7
export const MOST_ALIKE = 2
