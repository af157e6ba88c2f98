import { sameValue } from '#core/json'
import { z } from 'zod'
import { lookSchema } from '#core/look'
import { pictureUseSchema } from '#core/picture'
import { harmlessText, richTextSchema } from '#core/text'
import { languages, textKeys } from '#core/texts'
import { videoSchema } from '#core/video'
import { directSchema } from './direct'
import { answersToDependOn, fieldKeySchema, type FieldKind, fieldSchema } from './field'

/** Every place in a form where its owner writes. An empty one does not appear. */
const wordsSchema = z.strictObject({
  heading: harmlessText,
  introduction: richTextSchema,
  /** What the visitor gets, point by point. */
  points: richTextSchema,
  /** Just before the fields. */
  note: richTextSchema,
  button: harmlessText,
  /** The small line under the button. */
  small: richTextSchema,
  quote: richTextSchema,
  quoteBy: harmlessText,
  /** A longer text: below the form, or a section of its own on a landing page. */
  after: richTextSchema,
})
export type Words = z.infer<typeof wordsSchema>
export type WordKey = keyof Words
export const plainWordKeys = ['heading', 'button', 'quoteBy'] as const satisfies WordKey[]
export const richWordKeys = ['introduction', 'points', 'note', 'small', 'quote', 'after'] as const satisfies WordKey[]

/** What the places are called. */
export const wordNames: Record<WordKey, string> = {
  heading: 'Heading',
  introduction: 'Introduction',
  points: 'Points',
  note: 'Note before the fields',
  button: 'Button',
  small: 'Small line below',
  quote: 'A reader’s words',
  quoteBy: 'Who said it',
  after: 'Text after the form',
}

/** What a visitor is shown after pressing the button. Both ways are kept, so changing one's mind loses no words. */
const answerSchema = z.strictObject({
  show: z.enum(['message', 'address']),
  heading: harmlessText,
  message: harmlessText,
  /** As typed; `core/checkup` says whether it can be published. */
  address: harmlessText,
  /** Which of the answers go along in the address, by the keys of their fields; missing for none. */
  pass: z.array(fieldKeySchema).max(100).optional(),
})
export type Answer = z.infer<typeof answerSchema>

/** Right after the button: what a post of the form is answered with. */
export const outcomes = ['joined', 'confirm-first', 'already-on-list', 'message-sent'] as const
export type Outcome = (typeof outcomes)[number]
/** The cases that have an answer of their own. */
export const answerCases = [
  'joined',
  'already-on-list',
  'confirm-first',
  'already-waiting',
  'confirmed',
  'link-expired',
  'left',
  'not-possible',
  'message-sent',
] as const
export type AnswerCase = (typeof answerCases)[number]

/** Those that a post of the form may be answered with in place. */
export const answersInPlace = [...outcomes, 'already-waiting'] as const satisfies AnswerCase[]

/** What somebody sees in place of the form who signed up in this browser before, where our script shows it. */
const knownSchema = z.strictObject({
  heading: harmlessText,
  message: harmlessText,
  /** Somewhere else to go, as typed; an empty address for nowhere. */
  link: z.strictObject({ words: harmlessText, address: harmlessText }),
})
export type Known = z.infer<typeof knownSchema>

/** The form's picture, its words for those who cannot see it, and another for phones if wanted. Where it stands is the look's. */
const illustrationSchema = z.strictObject({
  picture: pictureUseSchema,
  phonePicture: pictureUseSchema.nullable(),
  alternative: harmlessText,
  /** It only decorates: screen readers pass over it. */
  isDecoration: z.boolean(),
  onPhones: z.boolean(),
  /** What matters in it, in hundredths from the left and from the top: stays in sight where it is cut. Missing is its middle. */
  focus: z.strictObject({ x: z.int().min(0).max(100), y: z.int().min(0).max(100) }).optional(),
})
export type Illustration = z.infer<typeof illustrationSchema>

/** What a landing page says of itself: to search engines, to those who share its link, and in the browser's tab. */
const pageSchema = z.strictObject({
  title: harmlessText,
  description: harmlessText,
  sharePicture: pictureUseSchema.nullable(),
  icon: pictureUseSchema.nullable(),
})

export const guardSchema = z.strictObject({
  /** Whoever is faster is held back, where the visitors' script tells how long it took; 0 for nobody. */
  leastSeconds: z.int().min(0).max(30),
  /** Whether addresses of throw-away mailboxes are held back. */
  noThrowAway: z.boolean(),
  /** Whether the visitor's browser has to solve a puzzle that costs it a moment, and whoever sends thousands a lot. */
  puzzle: z.boolean().optional(),
})
export type Guard = z.infer<typeof guardSchema>

/** Of a form that carries a message to its owner. */
const messagesSchema = z.strictObject({
  /** The owner's address that they go to, as typed; `core/checkup` says whether it can be used. */
  to: z
    .string()
    .max(320)
    .refine((text) => !/[\r\n\0]/.test(text), 'must be one line'),
  /** After so many days they are erased. */
  keepDays: z.int().min(1).max(3_650),
})

/** Kinds of fields that a form has once at most. */
const ofMessage: readonly FieldKind[] = ['message', 'subject', 'join-box']

/** All of a form that a visitor can notice. The draft is one of these; a version is one that never changes again. */
export const formContentSchema = z.strictObject({
  /** Which start shape it has; says which of its words are still samples. */
  shape: z.string().max(40),
  language: z.enum(languages),
  /** Interface texts that the owner rewrote. */
  texts: z.partialRecord(z.enum(textKeys), harmlessText),
  words: wordsSchema,
  illustration: illustrationSchema.nullable(),
  video: videoSchema.nullable(),
  /** What everybody who joins by it is tagged with. */
  tags: z.array(harmlessText.min(1).max(200)).max(50).optional(),
  /** Where it posts to by itself; missing for our receiver. */
  direct: directSchema.optional(),
  /** In the order asked. The email address is always among them; no key occurs twice. */
  fields: z
    .array(fieldSchema)
    .min(1)
    .max(100)
    .refine(
      (fields) => fields.filter((field) => field.kind === 'email').length === 1,
      'must ask for the email address once',
    )
    .refine(
      (fields) => new Set(fields.map((field) => field.key)).size === fields.length,
      'must not ask the same thing twice',
    )
    .refine(
      (fields) => ofMessage.every((kind) => fields.filter((field) => field.kind === kind).length <= 1),
      'must not carry two messages',
    )
    .refine((fields) => {
      const has = (kind: FieldKind) => fields.some((field) => field.kind === kind)
      return has('message') === has('join-box') && (has('message') || !has('subject'))
    }, 'must carry a message together with its box for joining, and a subject only with both')
    .refine(
      (fields) =>
        fields.every(
          ({ key, showWhen }) =>
            showWhen === null ||
            fields.some(
              (other) => other.key !== key && other.key === showWhen.field && answersToDependOn(other).length > 0,
            ),
        ),
      'must not depend on what is not asked',
    ),
  look: lookSchema,
  /** Those that are missing say what `answerTo` says: forms from before there was mail have two. */
  answers: z.strictObject({
    joined: answerSchema,
    'already-on-list': answerSchema,
    'confirm-first': answerSchema.optional(),
    'already-waiting': answerSchema.optional(),
    'message-sent': answerSchema.optional(),
    confirmed: answerSchema.optional(),
    'link-expired': answerSchema.optional(),
    left: answerSchema.optional(),
    'not-possible': answerSchema.optional(),
  }),
  page: pageSchema,
  /** What holds sign-ups back besides the trap; missing for nothing. */
  guard: guardSchema.optional(),
  /** Where its messages go; missing for a form that asks for none. */
  messages: messagesSchema.optional(),
  /** Whether the page's own programs are told the address of who joins; missing for not. */
  tellsAddress: z.literal(true).optional(),
  /** Missing for the form itself. */
  known: knownSchema.optional(),
})
export type FormContent = z.infer<typeof formContentSchema>

/** Every picture that the content shows, by id. */
export function picturesIn(content: FormContent): string[] {
  const { illustration, page } = content
  const uses = [illustration?.picture, illustration?.phonePicture, page.sharePicture, page.icon]
  return [...new Set(uses.flatMap((use) => (use ? [use.id as string] : [])))]
}

/** Whether two contents are the same to a visitor. */
export function sameContent(one: FormContent, other: FormContent): boolean {
  return sameValue(one, other)
}
