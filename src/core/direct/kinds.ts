import type { DefaultTreeAdapterTypes as Html } from 'parse5'
import type { FieldKind } from '#core/form'
import { attribute, typeOf } from '#core/submission'

/** What a field of a service's form can be here. */
export type ReadKind = Exclude<FieldKind, 'topics' | 'address' | 'birthday' | 'hidden'>

/** By the autofill tokens of the HTML standard. */
const BY_AUTOFILL: Record<string, ReadKind> = {
  email: 'email',
  name: 'full-name',
  'given-name': 'first-name',
  'family-name': 'last-name',
  tel: 'phone',
  url: 'website',
}

/** By the words that people name fields with. Common practice, without a source; the more exact come first. */
const BY_WORDS: [RegExp, ReadKind][] = [
  [/\b(e[- ]?mail|mail|correo|courriel)\b/, 'email'],
  [/\b(first ?name|fname|given ?name|forename|vorname|pr[eé]nom)\b/, 'first-name'],
  [/\b(last ?name|lname|sur ?name|family ?name|nachname)\b/, 'last-name'],
  [/\b(full ?name|your name|name|nom)\b/, 'full-name'],
  [/\b(phone|tel|mobile|telephone)\b/, 'phone'],
  [/\b(website|url|web ?site|homepage)\b/, 'website'],
]

const wordsIn = (text: string) =>
  text
    .replaceAll(/([a-z])([A-Z])/g, '$1 $2')
    .toLowerCase()
    .replaceAll(/[_\-[\].]+/g, ' ')

/** What a control asks for: by its type, by what browsers fill it with, by its name and its label. */
export function kindOf(control: Html.Element, label: string): ReadKind {
  const type = typeOf(control)
  if (control.tagName === 'select') return attribute(control, 'multiple') === null ? 'choose-one' : 'choose-several'
  switch (type) {
    case 'textarea':
      return 'text'
    case 'email':
      return 'email'
    case 'tel':
      return 'phone'
    case 'url':
      return 'website'
    case 'date':
      return 'date'
    case 'number':
    case 'range':
      return 'number'
    case 'checkbox':
      return 'consent'
    case 'radio':
      return 'choose-one'
  }
  const autofill = (attribute(control, 'autocomplete') ?? '').toLowerCase().split(/\s+/).at(-1)!
  if (Object.hasOwn(BY_AUTOFILL, autofill)) return BY_AUTOFILL[autofill]!
  // Its name says more than its label, which may be a whole sentence.
  for (const words of [wordsIn(attribute(control, 'name') ?? ''), wordsIn(label)]) {
    const found = BY_WORDS.find(([pattern]) => pattern.test(words))
    if (found !== undefined) return found[1]
  }
  return 'line'
}
