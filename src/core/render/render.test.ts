import { gzipSync } from 'node:zlib'
import fc from 'fast-check'
import { defaultTreeAdapter as tree, type DefaultTreeAdapterTypes as Tree, parse, parseFragment } from 'parse5'
import { frameCode, linkCode, placePart, plainCode, popUpPart, sharedLine } from '#core/embed'
import {
  type Field,
  fieldKinds,
  type FormContent,
  honeypotName,
  newField,
  sampleAnswers,
  shapes,
  startContent,
} from '#core/form'
import type { FormId, SpotId } from '#core/ids'
import { inTagsCode } from '#core/inlining'
import type { RichText } from '#core/text'
import { languages, textsOf } from '#core/texts'
import { controlNames } from '#core/signup'
import { htmlChecker } from '../../../tests/html-checker'
import { anyContent } from '../../../tests/tables/any-form'
import { answerPage, formAgainPage, framePage, landingPage, type PlacedForm, renderForm, toDocument, toHtml } from '.'

const placed = (content: FormContent): PlacedForm => ({
  content,
  form: 'someform' as FormId,
  version: 7,
  spot: 'somespot' as SpotId,
  receiver: 'https://forms.example',
})
const twoFields: FormContent = {
  ...startContent('Letters'),
  fields: [
    { ...newField('email', textsOf('en')), placeholder: 'you@mail.example' },
    newField('first-name', textsOf('en')),
  ],
}

describe('plain code', () => {
  test('parse5 reads the form that was meant', () => {
    const [around, ...others] = parseFragment(plainCode(placed(twoFields))).childNodes.filter(tree.isElementNode)
    const [card] = around!.childNodes.filter(tree.isElementNode)
    const [style, form, ...rest] = card!.childNodes.filter(tree.isElementNode)
    expect([around!.tagName, style!.tagName, others, rest]).toEqual(['div', 'style', [], []])
    expect(attributesOf(card!)).toEqual({ class: 'askbox-card askbox-at-somespot', lang: 'en', dir: 'ltr' })
    expect(attributesOf(form!)).toEqual({
      class: 'askbox',
      action: 'https://forms.example/join/somespot',
      method: 'post',
      'accept-charset': 'utf-8',
    })
    expect(all(form!, 'input').map(attributesOf)).toEqual([
      {
        class: 'askbox-input',
        id: 'askbox-at-somespot-email',
        name: 'email',
        type: 'email',
        autocomplete: 'email',
        maxlength: '254',
        placeholder: 'you@mail.example',
        required: '',
      },
      {
        class: 'askbox-input',
        id: 'askbox-at-somespot-first-name',
        name: 'first-name',
        type: 'text',
        autocomplete: 'given-name',
        maxlength: '200',
      },
      { name: honeypotName('someform' as FormId), type: 'text', tabindex: '-1', autocomplete: 'off' },
      { name: 'askbox-version', type: 'hidden', value: '7' },
    ])
    expect(all(form!, 'button').map((button) => [attributesOf(button).type, textOf(button)])).toEqual([
      ['submit', 'Sign up'],
    ])
    expect(all(form!, 'script')).toEqual([])
  })

  test('the honeypot is out of reach: inert, hidden from assistive technology, without autofill', () => {
    const form = parseFragment(plainCode(placed(twoFields))).childNodes.find(tree.isElementNode)!
    const wrapper = all(form, 'div').find((one) => 'inert' in attributesOf(one))!
    expect(attributesOf(wrapper)).toMatchObject({ inert: '', 'aria-hidden': 'true', hidden: '', style: 'display:none' })
    expect(all(wrapper, 'input')).toHaveLength(1)
  })

  test('has no blank line, which would end it on a page written in Markdown, and says the same', () => {
    const words = 'One line.\n\n \nAnother, after a blank one.'
    const code = plainCode(placed({ ...twoFields, words: { ...twoFields.words, heading: words } }))
    expect(code).not.toMatch(/\n[ \t]*\n/)
    expect(textOf(all(parseFragment(code), 'h2')[0]!)).toBe(words)
  })

  test('with styles it stays at or under 2.5 KB gzipped', () => {
    expect(gzipSync(plainCode(placed(twoFields))).length).toBeLessThanOrEqual(2560)
  })
})

describe('html-validate (general-purpose HTML checker), preset "standard"', () => {
  // The standard allows <style> in the head only; pasted code cannot reach there, and every browser applies it in the body.
  const inBody = htmlChecker({
    extends: ['html-validate:standard'],
    rules: { 'element-permitted-content': 'off', 'no-implicit-button-type': 'error' },
  })
  const standard = htmlChecker({ extends: ['html-validate:standard'] })
  const withoutStyle = (html: string) => html.replace(/<style>[\s\S]*?<\/style>\n?/, '')

  const around = (body: string, head = '') =>
    `<!DOCTYPE html>\n<html lang="en"><head><title>Page</title>${head}</head><body><h1>Page</h1>${body}</body></html>`

  test.each([
    [
      'plain code on a page',
      inBody,
      `<!DOCTYPE html>\n<html lang="en"><head><title>Page</title></head><body><h1>Page</h1>${plainCode(placed(twoFields))}</body></html>`,
    ],
    [
      'plain code but for its style',
      standard,
      `<!DOCTYPE html>\n<html lang="en"><head><title>Page</title></head><body><h1>Page</h1>${withoutStyle(plainCode(placed(twoFields)))}</body></html>`,
    ],
    [
      'answer page',
      standard,
      toDocument(
        answerPage(twoFields.answers.joined, twoFields, { name: 'the blog', address: 'https://blog.example/' }),
      ),
    ],
    ['styles in the tags', standard, around(inTagsCode(placed(twoFields)))],
    [
      'a frame',
      standard,
      around(
        frameCode('https://forms.example/frame/x', 'Sign up', {
          width: null,
          height: 300,
          heights: [
            { width: 320, height: 300 },
            { width: 680, height: 200 },
          ],
        }),
      ),
    ],
    [
      'a script’s place, its shared line and a pop-up’s part',
      standard,
      around(
        placePart(twoFields, 'https://forms.example', 'somespot' as SpotId, [
          { width: 300, height: 420 },
          { width: 680, height: 300 },
        ]),
        sharedLine('https://forms.example') + popUpPart('https://forms.example', 'somespot' as SpotId),
      ),
    ],
    [
      'a link as a button',
      standard,
      around(linkCode(twoFields, 'https://forms.example/page/x', { shownAs: 'button', opens: 'new-window' })),
    ],
    ['form in a frame', inBody, toDocument(framePage(placed(twoFields), { values: {}, errors: {} }))],
    [
      'form shown again',
      inBody,
      toDocument(
        formAgainPage(
          placed(twoFields),
          {
            values: { email: 'x@', 'first-name': 'Ada' },
            errors: { email: 'Not an address.' },
            page: 'https://blog.example/a',
          },
          null,
        ),
      ),
    ],
  ])('%s', async (_, checker, html) => {
    const problemsOf = async (text: string) =>
      (await checker.validateString(text)).results.flatMap(({ messages }) =>
        messages.map(({ ruleId, message }) => `${ruleId}: ${message}`),
      )
    expect(await problemsOf(html)).toEqual([])
    expect(await problemsOf(html.replace('</body>', '<p><b></p></body>'))).not.toEqual([])
  })
})

describe('every start shape with every kind of field, in ten languages', () => {
  const checker = htmlChecker({
    extends: ['html-validate:standard'],
    rules: { 'element-permitted-content': 'off' },
  })
  test.each(languages)('%s validates', async (language) => {
    const texts = textsOf(language)
    for (const [at, shape] of shapes.entries()) {
      const fields = fieldKinds.map(
        ({ kind }, at) => ({ ...newField(kind, texts), hint: 'A hint', step: at < 9 ? 1 : 2 }) as Field,
      )
      const content = {
        ...startContent('Letters', shape),
        language,
        fields,
        video: { address: 'https://video.example/e/7', title: 'The dome', width: 16, height: 9 },
      }
      for (const html of [
        `<!DOCTYPE html>\n<html lang="en"><head><title>Page</title></head><body><h1>Page</h1>${plainCode(placed(content))}</body></html>`,
        // Untouched in one half of the languages and with errors in the other.
        toDocument(
          (at + languages.indexOf(language)) % 2 === 0
            ? landingPage(placed(content))
            : landingPage(placed(content), {
                values: sampleAnswers(fields, 'long'),
                errors: { email: 'No.', topics: 'No.', address: 'No.', consent: 'No.' },
              }),
        ),
      ]) {
        const report = await checker.validateString(html)
        expect(
          report.results.flatMap(({ messages }) =>
            messages.map(({ ruleId, message, selector }) => `${shape.key} ${ruleId}: ${message} ${selector}`),
          ),
        ).toEqual([])
      }
    }
  })

  test('a field that depends on an answer is hidden by selectors alone, and never required where it may be out of sight', () => {
    const topics = newField('topics', textsOf('en'))
    const fields = [
      newField('email', textsOf('en')),
      topics,
      { ...newField('line', textsOf('en')), required: true, showWhen: { field: 'topics', is: ['c1', 'c2'] } } as Field,
    ]
    const html = plainCode(placed({ ...twoFields, fields }))
    expect(html).toContain(
      ':not(:has([name="topics--c1"]:checked,[name="topics--c2"]:checked)) .askbox-field-line{display:none}',
    )
    expect(
      attributesOf(all(parse(html), 'input').find((one) => attributesOf(one).name === 'line')!),
    ).not.toHaveProperty('required')
  })
})

test('shown again, values are kept and each error stands beside its field and is tied to it', () => {
  const html = toDocument(
    formAgainPage(
      placed(twoFields),
      { values: { email: 'x@', 'first-name': 'Ada' }, errors: { email: 'Not an address.' } },
      null,
    ),
  )
  const [email, name] = all(parse(html), 'input').map(attributesOf)
  expect(email).toMatchObject({ value: 'x@', 'aria-invalid': 'true' })
  expect(name).toMatchObject({ value: 'Ada' })
  const error = all(parse(html), 'span').find((span) => attributesOf(span).id === email!['aria-describedby'])
  expect(textOf(error!)).toBe('Not an address.')
})

test('property: any text in any place comes out as that very text, and adds no element and no attribute', () => {
  const text = fc
    .string({ unit: 'grapheme', minLength: 1, maxLength: 60 })
    .map((one) => one.replace(/[\r\0]/g, ''))
    // Of white space alone, a landing page makes no section: it says nothing.
    .filter((one) => one.trim() !== '')
  const nasty = fc.constantFrom(
    '"><script>alert(1)</script>',
    "' onfocus='x",
    '</style><script>',
    '</form>',
    '&amp;&lt;',
    '<!--',
    ']]>',
    '\n"x',
    'مرحبا',
    '👩‍🚀',
  )
  const any = fc.oneof(text, nasty)
  // Line breaks are the one thing in a text that is an element in HTML.
  const shape = (html: string) =>
    all(parseFragment(html), '*')
      .filter(({ tagName }) => tagName !== 'br')
      .map((one) => `${one.tagName} ${one.attrs.map(({ name }) => name).join()}`)
  const plain = shape(toHtml(renderForm(placed(filled('x')))))

  const plainPage = shape(toDocument(landingPage(placed(filled('x')))))
  fc.assert(
    fc.property(any, (typed) => {
      expect(shape(toDocument(landingPage(placed(filled(typed)))))).toEqual(plainPage)
      const html = toHtml(renderForm(placed(filled(typed))))
      expect(shape(html)).toEqual(plain)
      const form = parseFragment(html)
      expect(textOf(all(form, 'h2')[0]!)).toBe(typed)
      expect(textOf(all(form, 'button')[0]!)).toBe(typed)
      for (const place of ['askbox-introduction', 'askbox-points', 'askbox-note', 'askbox-small', 'askbox-after']) {
        expect(textOf(all(form, 'div').find((one) => attributesOf(one).class === place)!).trim()).toBe(typed.trim())
      }
      expect(textOf(all(form, 'blockquote')[0]!).trim()).toBe(typed.trim())
      expect(attributesOf(all(form, 'input')[0]!).placeholder).toBe(typed)
    }),
  )
})

test('property: of any form, what belongs together is tied together, and nothing else can be posted than what is asked', () => {
  fc.assert(
    fc.property(anyContent, fc.boolean(), (content, isShownAgain) => {
      const state = isShownAgain
        ? {
            values: sampleAnswers(content.fields, 'long'),
            errors: Object.fromEntries(
              content.fields.filter(({ kind }) => kind !== 'hidden').map(({ key }) => [key, 'Wrong.']),
            ),
          }
        : undefined
      const form = parseFragment(toHtml(renderForm(placed(content), state)))
      const nodes = all(form, '*').map((one) => ({ tag: one.tagName, ...attributesOf(one) })) as Record<
        string,
        string
      >[]
      const ids = nodes.flatMap(({ id }) => id ?? [])
      expect(new Set(ids).size).toBe(ids.length)
      for (const node of nodes)
        for (const id of [
          node.for,
          ...(node['aria-describedby'] ?? '').split(' '),
          ...(node['aria-labelledby'] ?? '').split(' '),
        ])
          if (id) expect(ids).toContain(id)
      expect(nodes.filter(({ tag }) => tag === 'script' || tag === 'iframe').map(({ src }) => src)).toEqual(
        content.video === null ? [] : [content.video.address],
      )
      expect(nodes.flatMap((node) => Object.keys(node)).filter((name) => name.startsWith('on'))).toEqual([])

      const names = new Set(nodes.flatMap(({ name }) => name ?? []))
      const hidden = content.fields
        .filter((field) => field.kind === 'hidden' && field.source === 'fixed')
        .map(({ key }) => key)
      const asked = [...content.fields.flatMap(controlNames), honeypotName('someform' as FormId), 'askbox-version']
      expect([...names].filter((name) => !asked.includes(name))).toEqual([])
      expect(asked.filter((name) => !names.has(name) && !hidden.includes(name))).toEqual([])
      // Each control that people can reach stands alone in a label: by its id, one in a second copy would be the first's.
      const labels = all(form, 'label')
      expect(labels.flatMap((label) => attributesOf(label).for ?? [])).toEqual([])
      const inLabels = labels.map((label) => ['input', 'select', 'textarea'].flatMap((tag) => all(label, tag)))
      expect(inLabels.filter((controls) => controls.length !== 1)).toEqual([])
      const labelled = inLabels.flat()
      for (const tag of ['input', 'select', 'textarea'])
        for (const control of all(form, tag)) {
          const { type, tabindex, name } = attributesOf(control)
          if (type !== 'hidden' && tabindex !== '-1') expect([name, labelled.includes(control)]).toEqual([name, true])
        }
    }),
    { numRuns: 150 },
  )
})

const oneSpan = (text: string): RichText => [{ kind: 'paragraph', spans: [{ text, italic: true }] }]

function filled(typed: string): FormContent {
  return {
    ...twoFields,
    words: {
      heading: typed,
      introduction: oneSpan(typed),
      points: [{ kind: 'bullets', items: [[{ text: typed, bold: true }]] }],
      note: oneSpan(typed),
      button: typed,
      small: oneSpan(typed),
      quote: oneSpan(typed),
      quoteBy: typed,
      after: oneSpan(typed),
    },
    page: { title: typed, description: typed, sharePicture: null, icon: null },
    fields: twoFields.fields.map((field) => ({ ...field, label: typed, placeholder: typed })),
  }
}

function all(node: Tree.ParentNode, tag: string): Tree.Element[] {
  return node.childNodes
    .filter(tree.isElementNode)
    .flatMap((child) => [...(tag === '*' || child.tagName === tag ? [child] : []), ...all(child, tag)])
}

function attributesOf(node: Tree.Element): Record<string, string> {
  return Object.fromEntries(node.attrs.map(({ name, value }) => [name, value]))
}

function textOf(node: Tree.ParentNode): string {
  return node.childNodes
    .map((child) =>
      tree.isTextNode(child)
        ? child.value
        : tree.isElementNode(child)
          ? child.tagName === 'br'
            ? '\n'
            : textOf(child)
          : '',
    )
    .join('')
}
