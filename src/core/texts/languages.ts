import { arabic } from './arabic'
import { dutch } from './dutch'
import { english } from './english'
import { french } from './french'
import { german } from './german'
import { italian } from './italian'
import { japanese } from './japanese'
import { polish } from './polish'
import { portuguese } from './portuguese'
import { spanish } from './spanish'
import type { AnswerTexts, InterfaceTexts, StartTexts, TextKey, Texts } from './texts'

/** By BCP 47 language tag. */
const ofLanguage = {
  en: english,
  de: german,
  fr: french,
  es: spanish,
  pt: portuguese,
  it: italian,
  nl: dutch,
  pl: polish,
  ja: japanese,
  ar: arabic,
} satisfies Record<string, Texts>

export type Language = keyof typeof ofLanguage
export const languages = Object.keys(ofLanguage) as [Language, ...Language[]]

/** In English. */
export const languageNames = Object.fromEntries(languages.map((one) => [one, ofLanguage[one].name])) as Record<
  Language,
  string
>

/** The texts of a language, with those that an owner rewrote in their place. An emptied one falls back. */
export function textsOf(language: Language, rewritten: Partial<InterfaceTexts> = {}): InterfaceTexts {
  const own = Object.entries(rewritten).filter(([, text]) => text !== undefined && text.trim() !== '')
  return { ...ofLanguage[language].form, ...Object.fromEntries(own) }
}

export const answerTextsOf = (language: Language): AnswerTexts => ofLanguage[language].answers
export const startTextsOf = (language: Language): StartTexts => ofLanguage[language].start

export const textKeys = Object.keys(english.form) as [TextKey, ...TextKey[]]

export const directionOf = (language: Language): 'ltr' | 'rtl' => ofLanguage[language].direction

/** Puts values in the place of `{names}`; a name without a value stays as it is. */
export function filledIn(text: string, values: Record<string, string | number>): string {
  return text.replace(/\{(\w+)\}/g, (whole, name: string) =>
    Object.hasOwn(values, name) ? String(values[name]) : whole,
  )
}
