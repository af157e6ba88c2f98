import { english, type InterfaceTexts, type TextKey } from './english'
import { dutch, french, german, italian, polish, portuguese, spanish } from './european'
import { arabic, japanese } from './further'

/** By BCP 47 language tag. Written from memory by its authors, not yet read by a native reader of each. */
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
} satisfies Record<string, InterfaceTexts>

export type Language = keyof typeof ofLanguage
export const languages = Object.keys(ofLanguage) as [Language, ...Language[]]

export const languageNames: Record<Language, string> = {
  en: 'English',
  de: 'German',
  fr: 'French',
  es: 'Spanish',
  pt: 'Portuguese',
  it: 'Italian',
  nl: 'Dutch',
  pl: 'Polish',
  ja: 'Japanese',
  ar: 'Arabic',
}

/** The texts of a language, with those that an owner rewrote in their place. An emptied one falls back. */
export function textsOf(language: Language, rewritten: Partial<InterfaceTexts> = {}): InterfaceTexts {
  const own = Object.entries(rewritten).filter(([, text]) => text !== undefined && text.trim() !== '')
  return { ...ofLanguage[language], ...Object.fromEntries(own) }
}

export const textKeys = Object.keys(english) as [TextKey, ...TextKey[]]

export function directionOf(language: Language): 'ltr' | 'rtl' {
  return language === 'ar' ? 'rtl' : 'ltr'
}

/** Puts values in the place of `{names}`; a name without a value stays as it is. */
export function filledIn(text: string, values: Record<string, string | number>): string {
  return text.replace(/\{(\w+)\}/g, (whole, name: string) =>
    Object.hasOwn(values, name) ? String(values[name]) : whole,
  )
}
