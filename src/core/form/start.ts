import { type Palette, quietPalette } from '#core/look'
import { textsOf } from '#core/texts'
import type { FormContent } from './content'
import { newField } from './field'
import { sampleWords, type Shape, shapeOf, shapes } from './shapes'

/** What a new form says before its owner rewrites it: whole sentences that could go live, named after its list. */
export function startContent(listName: string, shape: Shape = shapes[0]!, palette: Palette = quietPalette): FormContent {
  const words = sampleWords(shape)
  return {
    shape: shape.key,
    language: 'en',
    texts: {},
    words: { ...words, heading: words.heading || listName },
    illustration: null,
    video: null,
    fields: [{ ...newField('email', textsOf('en')), placeholder: 'The address you really read' }],
    look: shape.look(palette),
    answers: {
      joined: {
        show: 'message',
        heading: 'You are on the list',
        message: 'Thank you. You will hear from us.',
        address: '',
      },
      'already-on-list': {
        show: 'message',
        heading: 'You are already on the list',
        message: 'This address is on the list, so there is nothing left to do.',
        address: '',
      },
    },
    page: { title: '', description: '', sharePicture: null, icon: null },
  }
}

/** The shape that suits a kind of spot. */
export function shapeForSpot(kind: string): Shape {
  const key = { inline: 'band', sidebar: 'side-card', footer: 'footer-line', landing: 'landing' }[kind] ?? 'band'
  return shapeOf(key) ?? shapes[0]!
}
