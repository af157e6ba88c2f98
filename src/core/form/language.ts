import { sameValue } from '#core/json'
import { richText } from '#core/text'
import { answerTextsOf, type Language, startTextsOf, textsOf } from '#core/texts'
import { type Answer, type AnswerCase, type FormContent, type WordKey } from './content'
import { type Field, fieldKinds } from './field'
import { sampleWords, shapeOf } from './shapes'
import { answerTo } from './answer'
import { ourAnswer } from './message'

type Said = Pick<Answer, 'heading' | 'message'>

/** The content in another language: all that is still ours follows, what the owner wrote stays. */
export function inLanguage(content: FormContent, language: Language): FormContent {
  const oursIn = (one: Language) => ({
    texts: textsOf(one),
    example: startTextsOf(one).example,
    words: sampleWords(shapeOf(content.shape), one),
  })
  const [before, after] = [oursIn(content.language), oursIn(language)]
  const words = Object.fromEntries(
    (Object.keys(content.words) as WordKey[]).map((key) => [
      key,
      sameValue(content.words[key], before.words[key]) ? after.words[key] : content.words[key],
    ]),
  )
  const said = <Words extends Said>(now: Words, was: Said, is: Said): Words => ({
    ...now,
    heading: now.heading === was.heading ? is.heading : now.heading,
    message: now.message === was.message ? is.message : now.message,
  })
  const field = (one: Field): Field => {
    const ours = fieldKinds.find(({ kind }) => kind === one.kind)?.text ?? null
    const same = {
      ...one,
      label: ours !== null && one.label === before.texts[ours] ? after.texts[ours] : one.label,
      placeholder: one.placeholder === before.example ? after.example : one.placeholder,
    }
    const wording = same.kind === 'consent' ? 'consent' : same.kind === 'join-box' ? 'joinBox' : null
    return wording !== null && 'wording' in same && sameValue(same.wording, richText(before.texts[wording]))
      ? { ...same, wording: richText(after.texts[wording]) }
      : same
  }
  const onList = (one: Language) => answerTextsOf(one).alreadyOnList
  return {
    ...content,
    language,
    ...(content.known && { known: said(content.known, onList(content.language), onList(language)) }),
    words: words as FormContent['words'],
    fields: content.fields.map(field),
    answers: Object.fromEntries(
      (Object.keys(content.answers) as AnswerCase[]).map((one) => [
        one,
        // Where a message goes along, ours may say so.
        [false, true].reduce(
          (now, isWithMessage) =>
            said(now, ourAnswer(one, content.language, isWithMessage), ourAnswer(one, language, isWithMessage)),
          answerTo(content, one),
        ),
      ]),
    ) as FormContent['answers'],
  }
}
