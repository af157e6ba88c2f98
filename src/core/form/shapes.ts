import { sameValue } from '#core/json'
import { coloursFrom, inManner, type Look, mix, nearestFont, type Palette, plainLook } from '#core/look'
import type { SpotKind } from '#core/spot'
import { bullets, richText } from '#core/text'
import { type Language, type StartTexts, startTextsOf } from '#core/texts'
import { type FormContent, type WordKey, type Words } from './content'

/** A start shape: what a form for one purpose looks like and might say. */
export interface Shape {
  key: string
  name: string
  purpose: string
  /** Kinds of spots that it is made for: a narrow column has no room for a picture at the side. */
  places: readonly SpotKind[]
  /** Sample words in English; places it does not name stay empty. See `sampleWords` for other languages. */
  words(texts: StartTexts): Partial<Words>
  /** Whether people write to the owner by a form that starts with it. */
  takesMessages?: true
  /** Whether its sample words are there in every language. */
  isTranslated?: true
  /** Places whose samples say what only the owner can know. */
  claims: readonly WordKey[]
  look(palette: Palette): Look
}

/** The shape that is one line where there is room: its only field has no label above it. */
export const ONE_LINE = 'footer-line'

/** The shape that a pop-up starts with. */
export const POP_UP = 'pop-up'

const noWords: Words = {
  heading: '',
  introduction: [],
  points: [],
  note: [],
  button: '',
  small: [],
  quote: [],
  quoteBy: '',
  after: [],
}

/** All of our own, by purpose, before a site's manner. */
const drawn: readonly Shape[] = [
  {
    key: 'band',
    name: 'Inline band',
    purpose: 'In the text of a post: one question, one line.',
    places: ['inline', 'after-post', 'sidebar', 'footer'],
    words: ({ introduction, small, button }) => ({
      introduction: richText(introduction),
      small: richText(small),
      button,
    }),
    claims: [],
    look: (palette) => ({ ...plainLook, colours: coloursFrom(palette, 'tint') }),
  },
  {
    key: 'footer-line',
    name: 'Quiet one-liner',
    purpose: 'For a footer: everything in a row, on the page’s own background.',
    places: ['footer', 'inline', 'after-post'],
    words: () => ({
      heading: 'Now and then, a letter',
      introduction: richText('Leave whenever you like.'),
      button: 'Send it to me',
    }),
    claims: ['introduction'],
    look: (palette) => ({
      ...plainLook,
      words: 'beside',
      colours: coloursFrom(palette, 'page'),
      ground: { kind: 'none', text: 'page' },
      type: { ...plainLook.type, headingSize: 115, headingWeight: '600', sizes: { introduction: 90 } },
      space: { inside: 8, gap: 10, outside: 8, width: 1100 },
      border: { ...plainLook.border, corner: 0 },
    }),
  },
  {
    key: 'side-card',
    name: 'Side-column card',
    purpose: 'Narrow and upright, beside the text.',
    places: ['sidebar'],
    words: () => ({
      heading: 'Not here every day?',
      introduction: richText('We write when something new is up.'),
      small: richText('One mail a month, no more.'),
      button: 'Write to me',
    }),
    claims: ['small'],
    look: (palette) => ({
      ...plainLook,
      arrangement: 'stacked',
      colours: coloursFrom(palette, 'page'),
      space: { inside: 22, gap: 12, outside: 16, width: 340 },
      border: { width: 1, colour: mix(palette.text, palette.background, 0.22), corner: 8 },
      type: { ...plainLook.type, headingSize: 125 },
      button: { ...plainLook.button, width: 'row' },
    }),
  },
  {
    key: 'picture-side',
    name: 'With picture at the side',
    purpose: 'For a page with room: a picture sets the mood, words and fields stand beside it.',
    places: ['inline', 'after-post', 'footer', 'landing'],
    words: () => ({
      heading: 'See it before everyone else',
      introduction: richText('A letter with pictures, once a month.'),
      small: richText('You can leave with one press.'),
      button: 'Show me',
    }),
    claims: ['introduction', 'small'],
    look: (palette) => ({
      ...plainLook,
      arrangement: 'stacked',
      colours: coloursFrom(palette, 'tint'),
      picture: { place: 'start', strength: 30 },
      space: { inside: 28, gap: 14, outside: 24, width: 900 },
      border: { ...plainLook.border, corner: 2 },
      type: { ...plainLook.type, headingSize: 165 },
    }),
  },
  {
    key: 'gift',
    name: 'Gift offer',
    purpose: 'Something useful in exchange for an address, with what is in it.',
    places: ['inline', 'after-post', 'landing', 'pop-up'],
    words: () => ({
      heading: 'The printable guide, yours to keep',
      introduction: richText('Leave your address and it is in your inbox in a minute.'),
      points: bullets([
        'Twelve pages, ready to print',
        'Made by people who use it themselves',
        'Free, and it stays free',
      ]),
      small: richText('With it you join our letter, once a month. Leave whenever you like.'),
      button: 'Send me the guide',
    }),
    claims: ['heading', 'introduction', 'points', 'small'],
    look: (palette) => ({
      ...plainLook,
      arrangement: 'stacked',
      colours: coloursFrom(palette, 'night'),
      picture: { place: 'end', strength: 30 },
      space: { inside: 32, gap: 14, outside: 24, width: 900 },
      border: { ...plainLook.border, corner: 12 },
      field: { corner: 6, size: 'large', shape: 'box' },
      button: { corner: 6, size: 'large', fill: 'full', width: 'row' },
      type: { ...plainLook.type, headingSize: 170 },
    }),
  },
  {
    key: 'landing',
    name: 'Landing page',
    purpose: 'A page of its own: story, points and pictures around the form.',
    places: ['landing'],
    words: () => ({
      heading: 'A letter worth opening',
      introduction: richText(
        'What we find, what we make and what goes wrong, told once a month by the people who did it.',
      ),
      points: bullets([
        'One story, told properly',
        'Dates before they are public',
        'Never more than twelve letters a year',
      ]),
      after: richText(
        'It began with a note to eleven friends. The note grew, the friends passed it on, and we never saw a reason to stop.\n\nWe still write it by hand, and we answer every reply.',
      ),
      small: richText('Once a month. Leave with one press.'),
      button: 'Send me the letter',
    }),
    claims: ['introduction', 'points', 'after', 'small'],
    look: (palette) => ({
      ...plainLook,
      arrangement: 'stacked',
      colours: coloursFrom(palette, 'page'),
      picture: { place: 'end', strength: 30 },
      space: { inside: 32, gap: 16, outside: 0, width: 1100 },
      field: { corner: 6, size: 'large', shape: 'box' },
      button: { corner: 6, size: 'large', fill: 'full', width: 'row' },
      // A page of ours cannot take over the site's font.
      type: {
        ...plainLook.type,
        headingSize: 240,
        headingWeight: '800',
        ...(palette.font !== '' && { font: nearestFont(palette.font) }),
      },
      border: { ...plainLook.border, corner: 10 },
    }),
  },
  {
    key: POP_UP,
    name: 'Pop-up card',
    purpose: 'Over the page: one offer, one field, quick to close.',
    places: ['pop-up'],
    words: () => ({
      heading: 'Before you go on',
      introduction: richText('One letter a month, with what is worth knowing.'),
      small: richText('You can leave with one press.'),
      button: 'Send it to me',
    }),
    claims: ['introduction', 'small'],
    look: (palette) => ({
      ...plainLook,
      arrangement: 'stacked',
      colours: coloursFrom(palette, 'page'),
      picture: { place: 'above', strength: 30 },
      space: { inside: 32, gap: 14, outside: 0, width: 520 },
      border: { ...plainLook.border, corner: 10 },
      field: { corner: 6, size: 'large', shape: 'box' },
      button: { corner: 6, size: 'large', fill: 'full', width: 'row' },
      type: { ...plainLook.type, headingSize: 160 },
    }),
  },
  {
    key: 'event',
    name: 'Event notice',
    purpose: 'A date, a place, and a seat to ask for.',
    places: ['inline', 'after-post', 'sidebar', 'footer', 'landing', 'pop-up'],
    words: () => ({
      heading: 'Friday at dusk, on the hill',
      introduction: richText('Places are few. Leave your address and you hear first whether it takes place.'),
      note: richText('Gates open half an hour before.'),
      small: richText('We use your address for this event and its dates only.'),
      button: 'Keep me a place',
    }),
    claims: ['heading', 'introduction', 'note', 'small'],
    look: (palette) => ({
      ...plainLook,
      colours: coloursFrom(palette, 'accent'),
      space: { inside: 36, gap: 14, outside: 24, width: 640 },
      border: { ...plainLook.border, corner: 0 },
      field: { corner: 0, size: 'large', shape: 'box' },
      button: { corner: 0, size: 'large', fill: 'full', width: 'text' },
      type: { ...plainLook.type, headingSize: 180, headingWeight: '800' },
    }),
  },
  {
    key: 'write',
    name: 'A message to you',
    purpose: 'People write to you; who ticks a box gets your letter as well.',
    places: ['inline', 'after-post', 'sidebar', 'footer', 'landing'],
    takesMessages: true,
    isTranslated: true,
    words: ({ writeHeading, writeIntroduction, send }) => ({
      heading: writeHeading,
      introduction: richText(writeIntroduction),
      button: send,
    }),
    claims: ['introduction'],
    look: (palette) => ({
      ...plainLook,
      arrangement: 'stacked',
      colours: coloursFrom(palette, 'page'),
      space: { inside: 28, gap: 16, outside: 24, width: 640 },
      border: { width: 1, colour: mix(palette.text, palette.background, 0.22), corner: 6 },
      type: { ...plainLook.type, headingSize: 140 },
    }),
  },
  {
    key: 'bare',
    name: 'Plain, unstyled',
    purpose: 'Nothing but the fields, in the site’s own styles for forms.',
    places: ['inline', 'after-post', 'sidebar', 'footer'],
    words: ({ button }) => ({ heading: 'Get our letter', button }),
    claims: [],
    look: (palette) => ({
      ...plainLook,
      arrangement: 'stacked',
      colours: { ...coloursFrom(palette, 'page'), edge: null },
      ground: { kind: 'none', text: 'page' },
      dress: 'site',
      space: { inside: 0, gap: 12, outside: 16, width: 640 },
      border: { ...plainLook.border, corner: 0 },
      field: { corner: 0, size: 'medium', shape: 'box' },
      button: { corner: 0, size: 'medium', fill: 'outline', width: 'text' },
      type: { ...plainLook.type, headingSize: 120 },
    }),
  },
]

export const shapes: readonly Shape[] = drawn.map((shape) => ({
  ...shape,
  look: (palette) => inManner(shape.look(palette), palette.manner),
}))

/** Those that are made for one of some kinds of spots. */
export const shapesFor = (kinds: readonly SpotKind[]) =>
  shapes.filter(({ places }) => places.some((kind) => kinds.includes(kind)))

export function shapeOf(key: string): Shape | null {
  return shapes.find((shape) => shape.key === key) ?? null
}

/**
 * The words a shape starts with. What they say for one purpose is written in English; in other languages each place says
 * what forms say in general, and those without such words stay empty.
 */
export function sampleWords(shape: Shape | null, language: Language = 'en'): Words {
  const texts = startTextsOf(language)
  const words = shape?.words(texts) ?? {}
  if (language === 'en' || shape?.isTranslated) return { ...noWords, ...words }
  const { heading, introduction, button, small } = texts
  return {
    ...noWords,
    ...(words.heading !== undefined && { heading }),
    ...(words.introduction !== undefined && { introduction: richText(introduction) }),
    ...(words.button !== undefined && { button }),
    ...(words.small !== undefined && { small: richText(small) }),
  }
}

/** What landing pages once said in a reader's name: nobody did, and forms made then may still have it. */
const formerQuote = richText('The only letter that I read on the day it comes.')

/** The places whose words are still the shape's samples, in the form's language or in English. */
export function untouchedSamples(content: FormContent): WordKey[] {
  const { shape, language, words } = content
  const samples = { ...sampleWords(shapeOf(shape), language), quote: formerQuote }
  const own = (Object.keys(samples) as WordKey[]).filter(
    (key) => samples[key].length > 0 && sameValue(words[key], samples[key]),
  )
  return [...new Set([...own, ...foreignSamples(content)])]
}

/** Those of them that are in another language than the form. */
export function foreignSamples({ shape, language, words }: FormContent): WordKey[] {
  if (language === 'en') return []
  const english = sampleWords(shapeOf(shape), 'en')
  return (Object.keys(english) as WordKey[]).filter(
    (key) => english[key].length > 0 && sameValue(words[key], english[key]),
  )
}

/**
 * The content in another shape: its look, and its sample words in the place of those samples that the owner
 * has not touched. What the owner wrote, all fields, pictures and answers stay.
 */
export function reshaped(content: FormContent, shape: Shape, palette: Palette): FormContent {
  const before = sampleWords(shapeOf(content.shape), content.language)
  const after = sampleWords(shape, content.language)
  const words = { ...content.words }
  for (const key of Object.keys(before) as WordKey[]) {
    if (sameValue(content.words[key], before[key]) || sameValue(content.words[key], noWords[key]))
      Object.assign(words, { [key]: after[key] })
  }
  const [field, ...others] = content.fields
  const [wasOneLine, isOneLine] = [content.shape === ONE_LINE, shape.key === ONE_LINE]
  // The button beside the only field says what it is for (WCAG 2.2, technique G167), where all is to be one line.
  const fields =
    field !== undefined && others.length === 0 && field.placeholder !== '' && isOneLine !== wasOneLine
      ? [{ ...field, labelShown: !isOneLine }]
      : content.fields
  return { ...content, shape: shape.key, words, fields, look: { ...shape.look(palette), custom: content.look.custom } }
}
