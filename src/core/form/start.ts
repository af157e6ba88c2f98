import { type Palette, quietPalette } from '#core/look'
import { bullets, richText } from '#core/text'
import { type Language, startTextsOf, textsOf } from '#core/texts'
import type { FormContent, Words } from './content'
import { newField } from './field'
import { withMessage } from './message'
import { startAnswers } from './start-answers'
import { ONE_LINE, POP_UP, sampleWords, type Shape, shapeOf, shapes } from './shapes'

/** What a new form says before its owner rewrites it, named after its list. */
export function startContent(
  listName: string,
  shape: Shape = shapes[0]!,
  palette: Palette = quietPalette,
  language: Language = 'en',
): FormContent {
  const words = sampleWords(shape, language)
  const content: FormContent = {
    shape: shape.key,
    language,
    texts: {},
    words: { ...words, heading: words.heading || listName },
    illustration: null,
    video: null,
    fields: [
      {
        ...newField('email', textsOf(language)),
        placeholder: startTextsOf(language).example,
        labelShown: shape.key !== ONE_LINE,
      },
    ],
    look: shape.look(palette),
    answers: startAnswers(language),
    page: { title: '', description: '', sharePicture: null, icon: null },
  }
  return shape.takesMessages ? withMessage(content) : content
}

/** What a place says when it is opened, until its owner writes there: what to write, nothing for visitors. */
export const openedWords: Omit<Words, 'button' | 'small'> = {
  heading: 'Say what they get',
  introduction: richText('Say it in a sentence or two.'),
  points: bullets(['What they get', 'How often', 'What it costs: nothing']),
  note: richText('A note before the fields.'),
  quote: richText('What a reader said about it.'),
  quoteBy: 'A reader',
  after: richText('More to tell, below the form.'),
}

/** The shape that suits a kind of spot. */
export function shapeForSpot(kind: string): Shape {
  const key =
    { inline: 'band', sidebar: 'side-card', footer: 'footer-line', landing: 'landing', 'pop-up': POP_UP }[kind] ??
    'band'
  return shapeOf(key) ?? shapes[0]!
}
