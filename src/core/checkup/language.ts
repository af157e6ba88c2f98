import {
  type Answer,
  type AnswerCase,
  answerCases,
  type FormContent,
  isOurAnswer,
  ourAnswer,
  takesMessages,
} from '#core/form'
import type { MailSettings } from '#core/mail'
import { type Language, languageNames, languages } from '#core/texts'
import type { Finding } from './finding'

/** Letters that a language is written in where it is not the Latin alphabet; of the others nothing is told from letters. */
const LETTERS: Partial<Record<Language, RegExp>> = {
  ar: /\p{Script=Arabic}/u,
  ja: /[\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Han}]/u,
}
const LATIN = /\p{Script=Latin}{2}/u

/** Answers and mails that speak another language than their form. */
export function languageFindings(
  content: FormContent,
  mail: MailSettings | null,
  otherLanguages: readonly Language[] = [],
): Finding[] {
  const { language } = content
  const strange = answerCases.flatMap((about) => {
    const written = content.answers[about]
    const spoken = written === undefined || written.show !== 'message' ? null : languageOf(written, about, content)
    return spoken === null ? [] : [{ about, spoken, said: written!.heading.trim() || written!.message.trim() }]
  })
  const [first] = strange
  const answers: Finding[] =
    first === undefined
      ? []
      : [
          {
            station: 'answer',
            code: 'answer-language',
            weight: 'fault',
            about: first.about,
            message: `The form speaks ${languageNames[language]}; ${strange.length === 1 ? 'an answer' : `${strange.length} answers`} ${first.spoken === 'other letters' ? 'in other letters' : `in ${languageNames[first.spoken]}`}: “${first.said}”.`,
            reason: 'Whoever signs up in one language is answered in another.',
            mend: {
              name: `Answer in ${languageNames[language]}`,
              apply: (changed) => ({
                ...changed,
                answers: strange.reduce(
                  (all, { about }) => ({
                    ...all,
                    [about]: { ...all[about], ...ourAnswer(about, changed.language, takesMessages(changed)) },
                  }),
                  changed.answers,
                ),
              }),
            },
          },
        ]
  if (mail === null || mail.language === language) return answers
  return [
    ...answers,
    {
      station: 'mail',
      code: 'mail-language',
      // A list that forms of several languages feed speaks one of them.
      weight: otherLanguages.includes(mail.language) ? 'hint' : 'fault',
      about: 'sender',
      message: `The form speaks ${languageNames[language]}, the mails of its list ${languageNames[mail.language]}.`,
      reason: 'What you wrote in them yourself stays as it is; all that is still ours follows.',
      mend: {
        name: `Let the mails speak ${languageNames[language]}`,
        apply: (changed) => changed,
        mailLanguage: language,
      },
    },
  ]
}

/** Another language whose words of ours an answer still has, or other letters than the form's; null for its own. */
function languageOf(answer: Answer, about: AnswerCase, content: FormContent): Language | 'other letters' | null {
  const { language } = content
  if (isOurAnswer(answer, about, language)) return null
  const ours = languages.find((one) => one !== language && isOurAnswer(answer, about, one))
  if (ours !== undefined) return ours
  const letters = LETTERS[language]
  const text = `${answer.heading} ${answer.message}`
  return letters !== undefined && LATIN.test(text) && !letters.test(text) ? 'other letters' : null
}
