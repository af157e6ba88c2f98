import { z } from 'zod'
import { lookSchema } from '#core/look'
import { harmlessText } from '#core/text'
import { fieldSchema } from './field'

const wordsSchema = z.strictObject({
  heading: harmlessText,
  introduction: harmlessText,
  button: harmlessText,
  /** The small line below the button. */
  small: harmlessText,
})
export type WordKey = keyof z.infer<typeof wordsSchema>

/** What a visitor is shown after pressing the button. Both ways are kept, so changing one's mind loses no words. */
const answerSchema = z.strictObject({
  show: z.enum(['message', 'address']),
  heading: harmlessText,
  message: harmlessText,
  /** As typed; `core/checkup` says whether it can be published. */
  address: harmlessText,
})
export type Answer = z.infer<typeof answerSchema>

/** The cases that have an answer of their own. */
export const answerCases = ['joined', 'already-on-list'] as const
export type AnswerCase = (typeof answerCases)[number]

/** All of a form that a visitor can notice. The draft is one of these; a version is one that never changes again. */
export const formContentSchema = z.strictObject({
  /** BCP 47 language of the form's own texts. */
  language: z.literal('en'),
  words: wordsSchema,
  /** In the order asked. The first is always the email address; no key occurs twice. */
  fields: z
    .array(fieldSchema)
    .min(1)
    .refine((fields) => fields[0]?.kind === 'email', 'must begin with the email address')
    .refine((fields) => new Set(fields.map((field) => field.key)).size === fields.length, 'must not ask the same thing twice'),
  look: lookSchema,
  answers: z.strictObject({ joined: answerSchema, 'already-on-list': answerSchema }),
})
export type FormContent = z.infer<typeof formContentSchema>

/** Whether two contents are the same to a visitor. */
export function sameContent(one: FormContent, other: FormContent): boolean {
  return canonical(one) === canonical(other)
}

/** JSON with sorted keys: equal values give equal text, in whatever order their keys were set. */
function canonical(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonical).join()}]`
  if (value === null || typeof value !== 'object') return JSON.stringify(value)
  const entries = Object.entries(value).sort(([one], [other]) => (one < other ? -1 : 1))
  return `{${entries.map(([key, inner]) => `${JSON.stringify(key)}:${canonical(inner)}`).join()}}`
}
