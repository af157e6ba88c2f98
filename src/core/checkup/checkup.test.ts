import fc from 'fast-check'
import { readCustomCss } from '#core/css'
import {
  type FormContent,
  formContentSchema,
  inLanguage,
  newField,
  openedWords,
  sampleWords,
  shapeOf,
  shapes,
  startContent,
  type Field,
  type FieldKind,
} from '#core/form'
import type { PictureId } from '#core/ids'
import { type Column, columnSchema } from '#core/list'
import { contrast, quietPalette } from '#core/look'
import type { Mail } from '#core/mail'
import { mailInLanguage, startMail } from '#core/message'
import type { Picture } from '#core/picture'
import { richText } from '#core/text'
import { type Language, languages, textsOf } from '#core/texts'
import { anyContent } from '../../../tests/tables/any-form'
import { content, form, list, site, spot } from '../../../tests/tables/samples'
import {
  checkup,
  colourBehind,
  coloursBehind,
  type Drawn,
  type Finding,
  type Measures,
  nothingMeasured,
  questionsAsked,
} from '.'

const texts = textsOf('en')
const picture: Picture = {
  id: 'somepicture' as PictureId,
  type: 'image/png',
  width: 10,
  height: 10,
  name: 'hill.png',
  bytes: 'AAAA',
}
const use = { id: picture.id, width: 10, height: 10 }
const good: FormContent = {
  ...content,
  words: { ...content.words, introduction: richText('Once a month, what we saw.') },
}

function found(changes: (content: FormContent) => void, measures: Measures = nothingMeasured): Finding[] {
  const draft = structuredClone(good)
  changes(draft)
  return findingsOf(draft, measures)
}
function findingsOf(draft: FormContent, measures = nothingMeasured, columns = list.columns): Finding[] {
  const subject = {
    form: { ...form, draft },
    list: { ...list, columns },
    spots: [spot],
    sites: [{ ...site, palette: quietPalette }],
    receiver: 'http://localhost:4310',
    pictures: [picture],
    videoHosts: ['allowed.example'],
  }
  return checkup({ ...subject, measures })
}

/** From each language to each other, back to where it began: what is ours follows in form, answers and mails alike. */
test('a form that speaks another language than its list’s mails is told so, and one press puts it right', () => {
  const mailsIn = (language: Language) => startMail(list.id, list.name, language)
  for (const language of languages)
    for (const other of languages) {
      const subject = { form: { ...form, draft: inLanguage(good, language) }, list, spots: [spot], sites: [site] }
      const shared = { receiver: null, pictures: [], videoHosts: null }
      const about = (mail: Mail, otherLanguages: readonly Language[] = []) =>
        checkup({ ...subject, ...shared, mail, otherLanguages }).filter(({ code }) => /language/.test(code))
      const [finding, ...more] = about(mailsIn(other))
      expect([language, other, finding?.code, more]).toEqual([
        language,
        other,
        language === other ? undefined : 'mail-language',
        [],
      ])
      if (finding === undefined) continue
      expect([finding.weight, about(mailsIn(other), [other])[0]?.weight]).toEqual(['fault', 'hint'])
      const mended = mailInLanguage(mailsIn(other).draft, finding.mend!.mailLanguage!)
      expect(mended).toEqual(mailsIn(language).draft)
      expect(about({ ...mailsIn(other), draft: mended })).toEqual([])
    }
})

/** The list's columns after a mend. */
const columnsWith = ({ mend }: Finding, columns: Column[]) => [...columns, ...(mend?.columns ?? [])]

test('a sound form has no finding, nor has any start shape but for what only its owner can say', () => {
  expect(findingsOf(good)).toEqual([])
  for (const shape of shapes) {
    const findings = findingsOf({
      ...startContent('Our letter', shape),
      words: { ...startContent('Our letter', shape).words, heading: 'Hear from us each month' },
    })
    // Nothing of ours makes a new form red the moment it is made.
    const isForOwner = ({ code }: Finding) => code === 'messages-nowhere' || code === 'messages-unsent'
    expect([shape.key, findings.filter((one) => one.weight !== 'hint' && !isForOwner(one))]).toEqual([shape.key, []])
    expect([shape.key, findings.map(({ code }) => code)]).toEqual([
      shape.key,
      {
        gift: ['words-sample', 'gift-not-given'],
        // Only they know their own address.
        write: ['messages-nowhere', 'messages-unsent', 'words-sample'],
        // A rhythm, a way to leave, a use of addresses: promises, and the owner's to make.
        ...Object.fromEntries(
          ['footer-line', 'side-card', 'picture-side', 'landing', 'pop-up', 'event'].map((key) => [
            key,
            ['words-sample'],
          ]),
        ),
      }[shape.key] ?? [],
    ])
  }
})

const illustration = { picture: use, phonePicture: null, alternative: '', isDecoration: false, onPhones: true }

describe('each finding, with its weight; a mend, where there is one, puts it right', () => {
  test.each([
    { code: 'contrast-text', weight: 'fault', mends: true, change: (one) => (one.look.colours.text = '#aaa7a0') },
    {
      code: 'contrast-button-text',
      weight: 'fault',
      mends: true,
      change: (one) => (one.look.colours.buttonText = '#4f7d70'),
    },
    {
      code: 'contrast-button',
      weight: 'fault',
      mends: true,
      change: (one) => Object.assign(one.look.colours, { button: '#e0ded8', buttonText: '#000000' }),
    },
    { code: 'contrast-field-edge', weight: 'fault', mends: true, change: (one) => (one.look.colours.edge = '#e4e4e4') },
    {
      code: 'contrast-placeholder',
      weight: 'fault',
      mends: true,
      change: (one) => (
        Object.assign(one.look.colours, { text: '#6b6b6b', background: '#ffffff' }),
        (one.fields[0]!.placeholder = 'name')
      ),
    },
    // From light to dark no text reads on all of it.
    {
      code: 'contrast-text',
      weight: 'fault',
      mends: false,
      change: (one) => (one.look.ground = { kind: 'gradient', to: '#333333', angle: 0 }),
    },
    { code: 'label-empty', weight: 'stops', mends: false, change: (one) => (one.fields[1]!.label = ' ') },
    { code: 'label-hidden', weight: 'fault', mends: true, change: (one) => (one.fields[1]!.labelShown = false) },
    { code: 'autofill-off', weight: 'fault', mends: true, change: (one) => (one.fields[0]!.autofill = 'off') },
    { code: 'error-short', weight: 'hint', mends: false, change: (one) => (one.fields[0]!.error = 'Wrong') },
    {
      code: 'required-needless',
      weight: 'hint',
      mends: true,
      change: (one) => Object.assign(one.fields[1]!, { required: true }),
    },
    { code: 'no-column', weight: 'fault', mends: true, change: (one) => (one.fields[1]!.column = '') },
    {
      code: 'column-twice',
      weight: 'stops',
      mends: false,
      change: (one) =>
        one.fields.push({ ...newField('line', texts), key: 'again', column: one.fields[1]!.column } as never),
    },
    { code: 'column-missing', weight: 'stops', mends: true, change: (one) => (one.fields[1]!.column = 'shoe-size') },
    {
      code: 'target-small',
      weight: 'fault',
      mends: true,
      change: (one) => (one.fields.push(newField('topics', texts)), (one.look.type.size = 80)),
    },
    {
      code: 'two-boxes',
      weight: 'fault',
      mends: true,
      change: (one) =>
        one.fields.push(newField('message', texts), newField('join-box', texts), newField('consent', texts)),
    },
    {
      code: 'answer-language',
      weight: 'fault',
      mends: true,
      change: (one) => Object.assign(one, { answers: inLanguage(good, 'de').answers }),
    },
    {
      code: 'answer-language',
      weight: 'fault',
      mends: true,
      change: (one) =>
        Object.assign(one, inLanguage(good, 'ar'), {
          answers: {
            ...good.answers,
            joined: { show: 'message', heading: 'Danke!', message: 'Bis bald.', address: '' },
          },
        }),
    },
    {
      code: 'consent-no-link',
      weight: 'hint',
      mends: false,
      change: (one) => one.fields.push(newField('consent', texts)),
    },
    {
      code: 'consent-no-purpose',
      weight: 'hint',
      mends: false,
      change: (one) => one.fields.push({ ...newField('consent', texts), wording: richText('I agree') } as never),
    },
    {
      code: 'offer-vague',
      weight: 'hint',
      mends: false,
      change: (one) =>
        Object.assign(one.words, { heading: 'Newsletter', introduction: richText('Subscribe.'), small: [] }),
    },
    { code: 'gift-not-given', weight: 'hint', mends: false, change: (one) => (one.words.button = 'Send me the guide') },
    {
      code: 'quote-sample',
      weight: 'fault',
      mends: true,
      change: (one) =>
        Object.assign(one, {
          shape: 'landing',
          words: { ...one.words, quote: richText('The only letter that I read on the day it comes.') },
        }),
    },
    {
      code: 'words-sample',
      weight: 'hint',
      mends: true,
      change: (one) =>
        Object.assign(one, { shape: 'landing', words: { ...one.words, after: sampleWords(shapeOf('landing')).after } }),
    },
    {
      code: 'words-foreign',
      weight: 'fault',
      mends: false,
      change: (one) =>
        Object.assign(one, {
          shape: 'landing',
          language: 'de',
          words: { ...one.words, after: sampleWords(shapeOf('landing')).after },
        }),
    },
    {
      code: 'words-unwritten',
      weight: 'fault',
      mends: true,
      change: (one) => Object.assign(one.words, { heading: openedWords.heading, note: openedWords.note }),
    },
    { code: 'button-empty', weight: 'stops', mends: false, change: (one) => (one.words.button = '') },
    { code: 'alternative-missing', weight: 'fault', mends: true, change: (one) => (one.illustration = illustration) },
    {
      code: 'picture-missing',
      weight: 'stops',
      mends: false,
      change: (one) =>
        (one.illustration = { ...illustration, isDecoration: true, picture: { ...use, id: 'gone' as PictureId } }),
    },
    {
      code: 'video-title',
      weight: 'fault',
      mends: false,
      change: (one) => (one.video = { address: 'https://allowed.example/v', title: '', width: 16, height: 9 }),
    },
    {
      code: 'video-host',
      weight: 'stops',
      mends: false,
      change: (one) => (one.video = { address: 'https://other.example/v', title: 'V', width: 16, height: 9 }),
    },
    {
      code: 'link-insecure',
      weight: 'fault',
      mends: true,
      change: (one) => (one.words.small = [{ kind: 'paragraph', spans: [{ text: 'how', link: 'http://a.example/' }] }]),
    },
    ...(
      [
        ['contrast-small', { small: '#c8c2b4' }],
        ['contrast-heading', { heading: '#c8c2b4' }],
        ['contrast-label', { label: '#c8c2b4' }],
        ['contrast-field-text', { fieldText: '#c8c2b4' }],
        ['contrast-button-hover', { buttonHover: '#dddddd' }],
      ] as const
    ).map(([code, colours]) => ({
      code,
      weight: 'fault',
      mends: true,
      change: (one: FormContent) => Object.assign(one.look.colours, colours),
    })),
    {
      code: 'message-empty',
      weight: 'stops',
      mends: false,
      change: (one) => Object.assign(one.answers.joined, { heading: '', message: ' ' }),
    },
  ] as { code: string; weight: string; mends: boolean; change: (content: FormContent) => void }[])(
    '$code',
    ({ code, weight, mends, change }) => {
      const finding = found(change).find((one) => one.code === code)
      expect(finding).toMatchObject({ code, weight })
      expect(finding?.mend !== undefined).toBe(mends)
      if (finding?.mend === undefined) return
      const draft = structuredClone(good)
      change(draft)
      const after = findingsOf(finding.mend.apply(draft), nothingMeasured, columnsWith(finding, list.columns))
      expect(after.map((one) => one.code)).not.toContain(code)
    },
  )

  test.each([
    { button: '#f0ede6', buttonText: '#ffffff' },
    { button: '#cfcac0', buttonText: '#8a857b' },
    { button: '#f4f1ea', buttonText: '#f4f1ea' },
    { button: '#2f5d50', buttonText: '#3c6a5d' },
    { button: '#ffd54a', buttonText: '#ffffff' },
  ])(
    'a button of $button with words of $buttonText: one mend puts both right, and moves no more than both need',
    (colours) => {
      const draft = structuredClone(good)
      Object.assign(draft.look.colours, colours)
      const about = (content: FormContent) =>
        findingsOf(content).filter(({ selector }) => selector === '.askbox-button')
      const before = about(draft)
      expect(before.length).toBeGreaterThan(0)
      for (const { mend } of before) {
        const after = mend!.apply(draft)
        expect(about(after)).toEqual([])
        // What was well stays as its owner chose it.
        if (
          contrast(colours.button, draft.look.colours.background) >= 3 &&
          /words$/.test(mend!.name) &&
          !/and its words/.test(mend!.name)
        )
          expect(after.look.colours.button).toBe(colours.button)
      }
    },
  )

  test('a landing page whose first field has to be scrolled for is told so, for each screen', () => {
    const firstField = [
      { width: 1280, height: 800, end: 640 },
      { width: 390, height: 844, end: 980 },
    ]
    expect(
      found(() => {}, { ...nothingMeasured, firstField }).map(({ code, message }) => [
        code,
        /390 × 844.*136 px/.test(message),
      ]),
    ).toEqual([['below-first-screen', true]])
  })

  test('a field filled from the page’s address says where that cannot be', () => {
    const hidden = {
      ...newField('hidden', texts),
      column: 'first-name',
      source: 'page-address' as const,
      value: 'from',
    }
    const add = (one: FormContent) => void one.fields.push(hidden as FormContent['fields'][number])
    expect(found(add).find(({ code }) => code === 'address-not-seen')?.message).toContain('Sample site, inline')
    expect(
      found((one) => void one.fields.push({ ...hidden, source: 'fixed' } as FormContent['fields'][number])).map(
        ({ code }) => code,
      ),
    ).not.toContain('address-not-seen')
  })

  test('where no text reads both on the ground and in the fields, the fields give way', () => {
    // Light words on a ground of middle lightness, in white fields.
    const draft = structuredClone(good)
    Object.assign(draft.look.colours, { background: '#6b6b6b', text: '#ffffff', field: '#ffffff' })
    const finding = findingsOf(draft).find(({ code }) => code === 'contrast-field-text')
    expect(finding?.mend?.name).toBe('Darken the fields')
    expect(findingsOf(finding!.mend!.apply(draft)).filter(({ code }) => /text|placeholder/.test(code))).toEqual([])
  })

  test('over a picture, the worst of what was measured counts', () => {
    const behind = [
      { selector: '.askbox-heading', width: 360, is: 'text' as const, colours: ['#f4f1ea'] },
      { selector: '.askbox-heading', width: 680, is: 'text' as const, colours: ['#f4f1ea', '#55555c'] },
      { selector: '.askbox-button', width: 680, is: 'part' as const, colours: ['#3c6a5d'] },
    ]
    const finding = found(() => {}, { ...nothingMeasured, behind }).find(
      ({ code }) => code === 'contrast-heading-over-picture',
    )
    expect(finding?.message).toContain('at 680 px')
    expect(
      found(() => {}, { ...nothingMeasured, behind }).find(({ code }) => code === 'contrast-button-over-picture')
        ?.message,
    ).toContain('at 680 px')
    // Words over the picture are measured there; those beside it, on the form's own ground as well.
    const pale = (measures: Measures) =>
      found((one) => (one.look.colours.background = '#55555c'), measures).some(({ code }) => code === 'contrast-text')
    const introduction = [{ selector: '.askbox-introduction', width: 680, is: 'text' as const, colours: ['#ffffff'] }]
    expect([true, false].map((isOnGround) => pale({ ...nothingMeasured, behind: introduction, isOnGround }))).toEqual([
      true,
      false,
    ])
    expect(
      found(() => {}, {
        ...nothingMeasured,
        overflows: [{ selector: '.askbox-button', width: 280, words: 'Donaudampfschifffahrt' }],
      }).map(({ code }) => code),
    ).toEqual(['overflow'])
  })
})

describe('what the owner’s own CSS does, by its rules and as it is drawn', () => {
  const rule = (selector: string, property: string, value: string) => ({
    media: null,
    selectors: [selector],
    declarations: [{ property, value }],
  })
  const withCss = (...rules: ReturnType<typeof rule>[]) => ({
    ...good,
    look: { ...good.look, custom: { typed: 'as typed', rules } },
  })
  const text = {
    selector: '.askbox-heading',
    width: 320,
    colour: '#c8c4bc',
    opacity: 1,
    grounds: ['#f4f1ea'],
    under: ['#f4f1ea'],
    isLarge: false,
  }
  const edge = { selector: '.askbox-input', width: 320, edge: '#e0ddd6', fill: '#f4f1ea', grounds: ['#f4f1ea'] }
  type Case = {
    code: string
    says: string
    weight?: string
    css?: ReturnType<typeof rule>[]
    drawn?: Partial<Drawn>
    mendSets?: RegExp
  }
  test.each<Case>([
    {
      code: 'focus-hidden',
      says: 'outline',
      css: [rule('.askbox-input', 'outline', '0 !important')],
      mendSets: /^:focus-visible outline: 3px solid/,
    },
    { code: 'message-hidden', says: 'told after', css: [rule('.askbox-result p', 'opacity', '0.0')] },
    {
      code: 'css-contrast',
      says: 'The heading: 1.54 : 1',
      drawn: { texts: [text, { ...text, width: 680, grounds: ['#ffffff'], under: ['#ffffff'] }] },
      mendSets: /^\.askbox-heading color: #[0-9a-f]{6} !important$/,
    },
    {
      code: 'css-contrast',
      says: 'The small line',
      drawn: { texts: [{ ...text, selector: '.askbox-small a', colour: '#2b2b33', opacity: 0.3 }] },
      mendSets: /^\.askbox-small a color: #2b2b33 !important; opacity: 1/,
    },
    {
      code: 'css-edge',
      says: 'The fields: 1.20 : 1',
      drawn: { edges: [edge] },
      mendSets: /^\.askbox-input border: 1px solid #/,
    },
    {
      code: 'css-contrast',
      says: 'The button’s words under the pointer: 1.54 : 1',
      drawn: { texts: [{ ...text, selector: '.askbox-button:hover' }] },
      mendSets: /^\.askbox-button:hover color: #/,
    },
    {
      code: 'css-contrast',
      says: 'The example in a field with the keyboard there: 1.54',
      drawn: { texts: [{ ...text, selector: '.askbox-input:focus::placeholder' }] },
      mendSets: /^\.askbox-input:focus::placeholder color: #/,
    },
    {
      code: 'css-edge',
      says: 'The button under the pointer: 1.20 : 1',
      drawn: { edges: [{ ...edge, selector: '.askbox-button:hover' }] },
      mendSets: /^\.askbox-button:hover border: 1px solid #/,
    },
    {
      code: 'css-hidden',
      says: 'a label at 320 and 680 px',
      drawn: { hidden: [320, 680].map((width) => ({ selector: '.askbox-label', width, is: 'label' as const })) },
    },
    {
      code: 'css-hidden',
      says: 'the button at 320 px',
      weight: 'stops',
      drawn: { hidden: [{ selector: '.askbox-button', width: 320, is: 'button' }] },
    },
  ])(
    '$code: $says',
    ({ code, says, weight = 'fault', css = [rule('.askbox-note', 'color', 'red')], drawn, mendSets }) => {
      const draft = withCss(...css)
      const facts: Drawn = {
        look: draft.look,
        texts: [],
        edges: [],
        hidden: [],
        ...drawn,
      }
      const findings = findingsOf(draft, { ...nothingMeasured, drawn: facts })
      expect(findings.map((one) => [one.code, one.weight])).toEqual([[code, weight]])
      expect(findings[0]!.message).toContain(says)
      const mended = findings[0]!.mend?.apply(draft)
      const added = mended?.look.custom.rules.at(-1)
      expect(
        added === undefined
          ? ''
          : `${added.selectors} ${added.declarations.map(({ property, value }) => `${property}: ${value}`).join('; ')}`,
      ).toMatch(mendSets ?? /^$/)
      if (mended === undefined) return
      // What the owner typed stands, and what is rendered is what they can read.
      expect(mended.look.custom.typed.startsWith('as typed\n')).toBe(true)
      expect(readCustomCss(mended.look.custom.typed.replace('as typed', '')).rules).toEqual([added])
      expect(formContentSchema.safeParse(mended).error).toBeUndefined()
      // Drawn with another look, nothing is known.
      expect(
        findingsOf({ ...mended, look: { ...mended.look, shadow: 'soft' } }, { ...nothingMeasured, drawn: facts }),
      ).toEqual([])
    },
  )
  test('what is well as it is drawn is no finding', () => {
    const draft = withCss(rule('.askbox-heading', 'color', '#555'))
    const fine: Drawn = {
      look: draft.look,
      texts: [{ ...text, colour: '#333333' }],
      edges: [
        { ...edge, edge: '#555555' },
        { ...edge, edge: null, fill: '#333333' },
      ],
      hidden: [],
    }
    expect(findingsOf(draft, { ...nothingMeasured, drawn: fine })).toEqual([])
    // The focus may show by something else than an outline.
    const shadow = {
      ...rule('.askbox-input:focus', 'outline', 'none'),
      declarations: [
        { property: 'outline', value: 'none' },
        { property: 'box-shadow', value: '0 0 0 3px #123' },
      ],
    }
    expect(findingsOf(withCss(shadow))).toEqual([])
    // An outline around what never has it, or under the pointer, takes nothing from it.
    for (const css of [rule('.askbox-quote', 'outline', 'none'), rule('input:focus', 'outline', '3px solid #123')])
      expect(findingsOf(withCss(css))).toEqual([])
  })
})

test('property: of any form, each mend puts its finding right, brings none that stops, and all mends together come to an end', () => {
  const same = (one: Finding) => (other: Finding) => other.code === one.code && other.about === one.about
  fc.assert(
    fc.property(anyContent, (start) => {
      let content = start
      let { columns } = list
      let findings = findingsOf(content)
      for (let mends = 0; ; mends++) {
        const finding = findings.find(({ mend }) => mend !== undefined)
        if (finding === undefined) break
        expect([finding.code, mends < 60]).toEqual([finding.code, true])
        const mended = finding.mend!.apply(content)
        expect(formContentSchema.safeParse(mended).error).toBeUndefined()
        columns = columnsWith(finding, columns)
        expect(columns.map((column) => columnSchema.safeParse(column).error)).toEqual(columns.map(() => undefined))
        const after = findingsOf(mended, nothingMeasured, columns)
        expect([finding.code, after.some(same(finding))]).toEqual([finding.code, false])
        expect(after.filter((one) => one.weight === 'stops' && !findings.some(same(one)))).toEqual([])
        content = mended
        findings = after
      }
      for (const { message, code, selector } of findings)
        expect([code, message.trim() !== '', selector === undefined || selector.startsWith('.askbox')]).toEqual([
          code,
          true,
          true,
        ])
    }),
    { numRuns: 25, endOnFailure: true },
  )
})

test('colours behind a text come from the very pixels, blended with what is below', () => {
  // 8 × 4 pixels: black on the left, white on the right, half see-through over red.
  const data = Array.from({ length: 32 }, (_, at) => (at % 8 < 4 ? [0, 0, 0, 255] : [255, 255, 255, 255])).flat()
  const pixels = { data, width: 8, height: 4 }
  const all = { left: 0, top: 0, width: 8, height: 4 }
  expect(coloursBehind(pixels, all, { background: '#ff0000', strength: 0.5, text: '#000000' }).sort()).toEqual([
    '#800000',
    '#ff8080',
  ])
  expect(
    coloursBehind(pixels, { ...all, left: 4, width: 4 }, { background: '#ff0000', strength: 1, text: '#000000' }),
  ).toEqual(['#ffffff'])
  expect(coloursBehind(pixels, { ...all, left: 20 }, { background: '#ff0000', strength: 1, text: '#000000' })).toEqual(
    [],
  )
  // On the whole: half black, half white; outside the picture, none.
  expect([colourBehind(pixels, all, '#ff0000', 1), colourBehind(pixels, { ...all, top: 9 }, '#ff0000', 1)]).toEqual([
    ['#808080'],
    [],
  ])
})

test('questions are counted, and those that may be left out; hidden fields ask nothing', () => {
  const asked = (kind: FieldKind, required: boolean) => ({ ...newField(kind, texts), required }) as Field
  const fields = [asked('email', true), asked('first-name', false), asked('hidden', false)]
  expect(questionsAsked(fields)).toEqual({ asked: 2, optional: 1 })
})
