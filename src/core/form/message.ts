import { answerTextsOf, type Language, textsOf } from '#core/texts'
import { answerTo } from './answer'
import { type AnswerCase, answersInPlace, type FormContent } from './content'
import { type Field, newField } from './field'
import { fieldRemoved } from './fields'
import { startAnswers } from './start-answers'

type Said = { heading: string; message: string }

/** How long messages are kept until their owner says otherwise, in days. */
export const USUAL_DAYS_KEPT = 90

/** Whether a form carries a message to its owner: then only who ticks its box joins a list. */
export function takesMessages({ fields }: Pick<FormContent, 'fields'>): boolean {
  return fields.some(({ kind }) => kind === 'message')
}

/** Where a form's messages go and for how many days they are kept. */
export function messagesOf({ messages }: Pick<FormContent, 'messages'>): NonNullable<FormContent['messages']> {
  return messages ?? { to: '', keepDays: USUAL_DAYS_KEPT }
}

/**
 * The content with a message to its owner, and the box beside it that joins the list.
 *
 * @param to where messages go, until the owner says otherwise
 */
export function withMessage(content: FormContent, to = ''): FormContent {
  if (takesMessages(content)) return content
  const texts = textsOf(content.language, content.texts)
  const taken = content.fields.map(({ key }) => key)
  const step = Math.max(1, ...content.fields.map((field) => field.step))
  const [message, box] = [newField('message', texts, taken), newField('join-box', texts, taken)] as Field[]
  const consents = content.fields.filter(({ kind }) => kind === 'consent')
  const others = content.fields.filter(({ kind }) => kind !== 'consent')
  const fields = [...others, { ...message!, step }, { ...box!, step }, ...consents]
  const messages = { ...messagesOf(content), ...(to !== '' && { to }) }
  return withAnswersFor({ ...content, fields, messages }, true)
}

/** The content with its messages going to an address, where it takes any and they go nowhere yet. */
export function withOwner(content: FormContent, to: string): FormContent {
  const { messages } = content
  return messages === undefined || messages.to !== '' ? content : { ...content, messages: { ...messages, to } }
}

/** The content without its message, and what belongs to it. */
export function withoutMessage(content: FormContent): FormContent {
  const { messages: _, ...rest } = content
  const { 'message-sent': __, ...answers } = content.answers
  const field = content.fields.find(({ kind }) => kind === 'message')
  const fields = field === undefined ? content.fields : fieldRemoved(content.fields, field.key)
  return withAnswersFor({ ...rest, answers, fields }, false)
}

/** What who joins is told: our own words say, or no longer say, that the message arrived too; the owner's stay. */
function withAnswersFor(content: FormContent, isWithMessage: boolean): FormContent {
  const { language } = content
  const answers = { ...content.answers }
  for (const one of toldOfMessage) {
    const now = answerTo(content, one)
    const before = ourAnswer(one, language, !isWithMessage)
    if (now.heading === before.heading && now.message === before.message)
      answers[one] = { ...now, ...ourAnswer(one, language, isWithMessage) }
  }
  return { ...content, answers }
}

/** Our own words in a case. */
export function ourAnswer(one: AnswerCase, language: Language, isWithMessage: boolean): Said {
  const { heading, message } = answerTo({ answers: startAnswers(language), language }, one)
  return isWithMessage && toldOfMessage.includes(one)
    ? { heading, message: `${message} ${answerTextsOf(language).messageToo}` }
    : { heading, message }
}

/** Whether an answer says what is ours in a language, with or without a message that goes along. */
export const isOurAnswer = ({ heading, message }: Said, one: AnswerCase, language: Language): boolean =>
  [false, true].some((isWithMessage) => {
    const ours = ourAnswer(one, language, isWithMessage)
    return heading === ours.heading && message === ours.message
  })

/** Cases of those who may have sent a message along with joining. */
const toldOfMessage: readonly AnswerCase[] = answersInPlace.filter((one) => one !== 'message-sent')

/** What a post of this form may be answered with in place. */
export function answersInPlaceOf(content: Pick<FormContent, 'fields'>): readonly AnswerCase[] {
  return takesMessages(content) ? answersInPlace : toldOfMessage
}
