import fc from 'fast-check'
import {
  answersToDependOn,
  autofillTokens,
  type Field,
  fieldKinds,
  type FieldKind,
  type FormContent,
  formContentSchema,
  newField,
  shapes,
  startContent,
} from '#core/form'
import { type Look, plainLook } from '#core/look'
import type { RichText, Span } from '#core/text'
import { languages, textsOf } from '#core/texts'

/** Made at random, for property tests: whatever an owner could make. */

/** A text that can be typed: anything but NUL and lone surrogates, which are refused at the door. */
export const anyText = fc.oneof(
  fc.string({ unit: 'grapheme', maxLength: 40 }).map((text) => text.replace(/[\0\r]/g, '')),
  fc.constantFrom(
    '"><script>alert(1)</script>',
    "' onfocus='x",
    '</style><script>',
    '</form>',
    '&amp;&lt;',
    '<!--',
    ']]>',
    '\n"x',
    'مرحبا “x”',
    '👩‍🚀',
    '  two  spaces ',
    '{label} $1 \\',
    '\u2028',
  ),
)

const anySpan: fc.Arbitrary<Span> = fc.record(
  {
    text: anyText.map((text) => text || 'x'),
    bold: fc.constant(true as const),
    italic: fc.constant(true as const),
    link: fc.constantFrom(
      'https://a.example/',
      'http://b.example/?a=1&b="2"',
      'mailto:ada@mail.example',
      'tel:+15550100',
    ),
  },
  { requiredKeys: ['text'] },
)
const anySpans = fc.array(anySpan, { minLength: 1, maxLength: 3 })
export const anyRich: fc.Arbitrary<RichText> = fc.array(
  fc.oneof(
    fc.record({ kind: fc.constant('paragraph' as const), spans: anySpans }),
    fc.record({
      kind: fc.constantFrom('bullets' as const, 'numbers' as const),
      items: fc.array(anySpans, { minLength: 1, maxLength: 3 }),
    }),
  ),
  { maxLength: 3 },
)

const anyColour = fc.integer({ min: 0, max: 0xffffff }).map((number) => `#${number.toString(16).padStart(6, '0')}`)
/** Tokens that a look can do without. */
const anyOwn = fc.record(
  {
    heading: anyColour,
    introduction: anyColour,
    label: anyColour,
    small: anyColour,
    fieldText: anyColour,
    buttonHover: anyColour,
  },
  { requiredKeys: [] },
)

const anyLook: fc.Arbitrary<Look> = fc
  .record({
    own: fc.oneof({ weight: 2, arbitrary: fc.constant({}) }, { weight: 1, arbitrary: anyOwn }),
    words: fc.constantFrom('beside' as const, undefined),
    above: fc.option(fc.integer({ min: 0, max: 96 }), { nil: undefined }),
    sizes: fc.option(fc.record({ small: fc.integer({ min: 70, max: 200 }) }), { nil: undefined }),
    arrangement: fc.constantFrom('stacked' as const, 'line' as const),
    align: fc.constantFrom('start' as const, 'center' as const, 'end' as const),
    shadow: fc.constantFrom('none' as const, 'soft' as const, 'lifted' as const),
    colours: fc
      .array(fc.integer({ min: 0, max: 0xffffff }), { minLength: 4, maxLength: 4 })
      .map((all) => all.map((number) => `#${number.toString(16).padStart(6, '0')}`)),
    custom: fc.constantFrom<Look['custom'][]>(
      { typed: '', rules: [] },
      {
        typed: '.askbox-input { outline: none }',
        rules: [{ media: null, selectors: ['.askbox-input'], declarations: [{ property: 'outline', value: 'none' }] }],
      },
    ),
    ground: fc.constantFrom<Look['ground'][]>(
      { kind: 'colour' },
      { kind: 'none' },
      { kind: 'gradient', to: '#446688', angle: 20 },
    ),
  })
  .map(({ colours: [background, text, button, buttonText], own, above, sizes, ...rest }) => ({
    ...plainLook,
    ...rest,
    space: { ...plainLook.space, ...(above !== undefined && { above }) },
    type: { ...plainLook.type, ...(sizes !== undefined && { sizes }) },
    colours: {
      ...plainLook.colours,
      background: background!,
      text: text!,
      button: button!,
      buttonText: buttonText!,
      ...own,
    },
  }))

const anyFieldSettings = fc.record({
  label: anyText,
  labelShown: fc.boolean(),
  placeholder: anyText,
  hint: anyText,
  error: anyText,
  required: fc.boolean(),
  width: fc.constantFrom('full' as const, 'half' as const),
  autofill: fc.constantFrom('', 'off', ...autofillTokens.slice(0, 5)),
  step: fc.integer({ min: 1, max: 3 }),
  on: fc.nat(),
})

const bounds = [{}, { least: 5 }, { most: 2 }, { least: -3, most: -1 }]

/** Whole contents: any shape and language, any selection of fields in any order, some asked only after an answer. */
export const anyContent: fc.Arbitrary<FormContent> = fc
  .record({
    shape: fc.constantFrom(...shapes),
    language: fc.constantFrom(...languages),
    kinds: fc.shuffledSubarray(fieldKinds.slice(1).map(({ kind }) => kind)),
    settings: fc.array(anyFieldSettings, { minLength: fieldKinds.length, maxLength: fieldKinds.length }),
    email: fc.nat({ max: fieldKinds.length }),
    words: fc.record({
      heading: anyText,
      introduction: anyRich,
      points: anyRich,
      note: anyRich,
      button: anyText.map((text) => text.trim() || 'Join'),
      small: anyRich,
      quote: anyRich,
      quoteBy: anyText,
      after: anyRich,
    }),
    wording: anyRich,
    look: anyLook,
    video: fc.option(
      fc.record({
        address: fc.constantFrom('https://video.example/1', 'https://allowed.example/2?a=1&b=2'),
        title: anyText,
        width: fc.integer({ min: 1, max: 2_000 }),
        height: fc.integer({ min: 1, max: 2_000 }),
      }),
    ),
    page: fc.record({ title: anyText, description: anyText, sharePicture: fc.constant(null), icon: fc.constant(null) }),
    texts: fc.dictionary(fc.constantFrom('missing', 'sending', 'street'), anyText, { maxKeys: 2 }),
  })
  .map(({ shape, language, kinds, settings, email, words, wording, look, video, page, texts }) => {
    const isOfMessage = (kind: FieldKind) => kind === 'message' || kind === 'subject' || kind === 'join-box'
    // A message and its box come together.
    const isMessage = kinds.includes('message') && kinds.includes('join-box')
    const possible = kinds.filter((kind) => isMessage || !isOfMessage(kind))
    const asked = [...possible.slice(0, email), 'email' as const, ...possible.slice(email)]
    const taken: string[] = []
    const fields = asked.map((kind, at): Field => {
      const field = newField(kind, textsOf(language), taken)
      taken.push(field.key)
      const { on: _, ...set } = settings[at]!
      if (field.kind === 'email') return { ...field, ...set, required: true }
      return {
        ...field,
        ...set,
        ...((field.kind === 'consent' || field.kind === 'join-box') && { wording }),
        ...(field.kind === 'message' && { required: true }),
        ...(field.kind === 'join-box' && { required: false }),
        ...(field.kind === 'birthday' && { withYear: set.required }),
        ...(field.kind === 'number' && bounds[settings[at]!.on % bounds.length]),
      } as Field
    })
    for (const [at, field] of fields.entries()) {
      const { on } = settings[at]!
      const other = fields[on % fields.length]!
      const [answer] = answersToDependOn(other)
      if (field.kind !== 'email' && !isOfMessage(field.kind) && other !== field && answer !== undefined && on % 3 === 0)
        field.showWhen = { field: other.key, is: [answer.key] }
    }
    return formContentSchema.parse({
      ...startContent('Our letter', shape),
      language,
      texts,
      words,
      fields,
      look,
      video,
      page,
    })
  })
