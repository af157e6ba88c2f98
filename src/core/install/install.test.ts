import fc from 'fast-check'
import sanitizeHtml from 'sanitize-html'
import {
  frameCode,
  frameAddress,
  linkCode,
  pageAddress,
  placePart,
  plainCode,
  popUpPart,
  sharedLine,
} from '#core/embed'
import { newField, shapes, startContent, type Version } from '#core/form'
import { inTagsCode } from '#core/inlining'
import { textsOf } from '#core/texts'
import type { Spot } from '#core/spot'
import { content, spot, version } from '../../../tests/tables/samples'
import { checkInstall, type ExpectedCode, mangled, type Mangling, manglings, type PageToCheck } from '.'

const RECEIVER = 'https://forms.example'
const newer: Version = {
  ...version,
  number: 2,
  content: { ...content, words: { ...content.words, heading: 'Another one' } },
}
const expected = (code: ExpectedCode['code'], more: Partial<ExpectedCode> = {}): ExpectedCode => ({
  spot,
  code,
  receiver: RECEIVER,
  versions: [version, newer],
  others: new Map([
    [spot.id, 'This spot'],
    ['otherspot', 'Another site, sidebar'],
  ]),
  inTags: inTagsCode,
  ...more,
})
const placed = (one = newer, at = spot.id) => ({
  content: one.content,
  form: one.form,
  version: one.number,
  spot: at,
  receiver: RECEIVER,
})
const codes: Record<string, { code: ExpectedCode['code']; html: string; spot?: Spot }> = {
  plain: { code: 'plain', html: plainCode(placed()) },
  'in tags': { code: 'in-tags', html: inTagsCode(placed()) },
  script: {
    code: 'script',
    html: placePart(newer.content, RECEIVER, spot.id, [
      { width: 320, height: 400 },
      { width: 680, height: 300 },
    ]),
  },
  'pop-up': { code: 'script', html: popUpPart(RECEIVER, spot.id), spot: { ...spot, kind: 'pop-up' } },
  frame: {
    code: 'frame',
    html: frameCode(frameAddress(RECEIVER, spot.id), 'A form', {
      width: null,
      height: 300,
      heights: [
        { width: 320, height: 300 },
        { width: 680, height: 200 },
      ],
    }),
  },
  link: {
    code: 'link',
    html: linkCode(newer.content, pageAddress(RECEIVER, spot.id), { shownAs: 'button', opens: 'here' }),
  },
}

const page = (
  html: string,
  { head = '', address = 'https://site.example/post', policies = [] as string[] } = {},
): PageToCheck => ({
  html: `<!doctype html>\n<html lang="en">\n<head>\n<title>A page</title>\n${head}</head>\n<body>\n<main><p>Before it.</p>\n${html}\n<p>After it.</p></main>\n</body></html>`,
  address,
  policies,
})
const line = sharedLine(RECEIVER)
const codesIn = (report: ReturnType<typeof checkInstall>) => report.findings.map((finding) => finding.code)

describe.each(Object.entries(codes))('%s', (_, { code, html, spot: at = spot }) => {
  const asked = expected(code, { spot: at })

  test('whole, it is never called damaged', () => {
    const report = checkInstall(page(html, { head: line }), asked)
    expect([report.state, report.findings]).toEqual(['whole', []])
  })

  test('what is not there is missed', () => {
    expect(checkInstall(page('', { head: line }), asked)).toMatchObject({
      state: 'absent',
      findings: [{ code: 'absent' }],
    })
  })

  test('twice is found', () => {
    const report = checkInstall(page(html + html, { head: line }), asked)
    expect(codesIn(report)).toContain('twice')
  })

  test('the code of another spot is named', () => {
    const other = html.replaceAll(spot.id, 'otherspot')
    const report = checkInstall(page(other, { head: line }), asked)
    expect(report).toMatchObject({ state: 'absent', findings: [{ code: 'other-spot' }] })
    expect(report.findings[0]!.message).toContain('Another site, sidebar')
  })

  // As ids are miscopied: a letter lost, doubled, swapped for its neighbour.
  test.each([
    ['a letter missing', spot.id.slice(0, -1), spot.id],
    ['a letter too many', `${spot.id}x`, spot.id],
    ['another spot’s, with a letter missing', 'otherspo', 'otherspot'],
    ['nobody’s', 'zzzzzzzzzzzzzzzz', undefined],
  ])('code that names a spot that does not exist: %s', (_, id, meant) => {
    // A landing page has a name of its own besides, so a link is not known to be wrong unless it is like the right one.
    if (asked.code === 'link' && id !== spot.id && meant !== spot.id) return
    const report = checkInstall(page(html.replaceAll(spot.id, id), { head: line }), asked)
    expect(report).toMatchObject({ state: 'absent', findings: [{ code: 'unknown-spot' }] })
    expect(report.findings[0]!.spot).toBe(meant)
    expect(report.findings[0]!.lines).not.toBeNull()
  })
})

/** What each kind of editor does to each code that it reaches, and what of it is to be named. */
const damages: [name: keyof typeof codes, does: Mangling[], named?: Mangling[]][] = [
  ...(['plain', 'in tags', 'script', 'link'] as const).flatMap((name): typeof damages => [
    [name, ['as-text']],
    [name, ['curly-quotes', 'as-text', 'paragraphs']],
    [name, ['curly-quotes', 'as-text']],
    [name, ['as-text', 'paragraphs']],
    [name, ['curly-quotes']],
  ]),
  ['pop-up', ['as-text']],
  ['plain', ['paragraphs']],
  ['plain', ['no-style-sheets']],
  ['in tags', ['no-style-attributes']],
  ['plain', ['no-attributes']],
  ['plain', ['no-forms']],
  ['plain', ['no-forms', 'no-style-sheets']],
  ['plain', ['links-only'], ['links-only']],
]

test.each(damages)('%s after %j is found and named', (name, does, named = does) => {
  const { code, html, spot: at = spot } = codes[name]!
  const report = checkInstall(page(mangled(html, ...does), { head: line }), expected(code, { spot: at }))
  expect(report.state).toBe('damaged')
  expect(codesIn(report).filter((one) => one in manglings)).toEqual(named)
  const [from, to] = report.findings[0]!.lines!
  expect(from).toBeGreaterThan(6)
  expect(to).toBeGreaterThanOrEqual(from)
})

test('code in a script that builds the page is not read as text', () => {
  for (const { code, html, spot: at = spot } of Object.values(codes)) {
    const report = checkInstall(
      page(`<script>a(${JSON.stringify(html).replaceAll('</', '<\\/')})</script>`),
      expected(code, { spot: at }),
    )
    expect(codesIn(report)).not.toContain('as-text')
    expect(codesIn(report)).toEqual(['by-script'])
  }
})

describe('code that can be read as text is named so, whatever else was done to it', () => {
  const escaped = manglings['as-text']
  const linked = (html: string) =>
    html.replace(/https:\/\/forms\.example\/[\w./#-]+/g, (address) => `<a href="${address}">${address}</a>`)
  test.each<[string, (html: string) => string, boolean?]>([
    ['with another word and rules', (html) => escaped(html).replace('method', 'onemethod').replaceAll('\n', '\n<hr>')],
    ['a line a block', (html) => escaped(html).replace(/^.*$/gm, (line) => `<div>${line}</div>`)],
    ['with line breaks', (html) => escaped(html).replaceAll('\n', '<br>')],
    ['with spaces that do not break', (html) => escaped(html).replaceAll(' ', '&nbsp;')],
    ['with links made of its addresses', (html) => linked(escaped(html))],
    ['escaped twice', (html) => escaped(escaped(html))],
    ['as source to read', (html) => `<pre><code>${escaped(html)}</code></pre>`],
    ['in a language’s own quotes', (html) => escaped(html.replace(/"([^"]*)"/g, '«$1»'))],
    ['in a text that is written on', (html) => `<p>Hello ${escaped(html).replace(/\s+/g, ' ')} bye</p>`],
  ])('%s', (_, does) => {
    for (const { code, html, spot: at = spot } of Object.values(codes)) {
      const report = checkInstall(page(does(html), { head: line }), expected(code, { spot: at }))
      expect([code, report.state]).toEqual([code, 'damaged'])
      expect(codesIn(report)).toContain('as-text')
      expect(report.findings.find((one) => one.code === 'as-text')?.message).toMatch(/as text/)
    }
  })
})

test('another code of the same spot is named, and looked at as what it is', () => {
  const report = checkInstall(page(codes.plain!.html), expected('script'))
  expect([report.state, codesIn(report)]).toEqual(['whole', ['other-code']])
  expect(codesIn(checkInstall(page(codes.script!.html, { head: line }), expected('link')))).toEqual(['other-code'])
  expect(codesIn(checkInstall(page(codes.script!.html), expected('plain')))).toEqual(['other-code', 'line-missing'])
})

test('links stay whole where all else is taken out', () => {
  const { html } = codes.link!
  expect(checkInstall(page(mangled(html, 'links-only')), expected('link')).state).toBe('whole')
})

test('a public sanitizer of HTML takes forms out by its own rules: what is left is no form', () => {
  const report = checkInstall(page(sanitizeHtml(codes.plain!.html)), expected('plain'))
  expect(report.state).toBe('damaged')
})

test.each<[string, PageToCheck, ExpectedCode, string[], string]>([
  ['an older version', page(plainCode(placed(version))), expected('plain'), ['older'], 'damaged'],
  ['the shared line missing', page(codes.script!.html), expected('script'), ['line-missing'], 'damaged'],
  ...[
    ['waiting for consent', '<script type="text/plain" data-category="marketing"'],
    ['by an optimizer', '<script type="d41d8cd98f00-text/javascript"'],
    ['as a module', '<script type="module"'],
    ['for old browsers', '<script nomodule'],
    ['held against a copy', '<script integrity="sha384-x" crossorigin="anonymous"'],
  ].map(([what, tag]): [string, PageToCheck, ExpectedCode, string[], string] => [
    `the shared line ${what}`,
    page(codes.script!.html, { head: line.replace('<script', tag!) }),
    expected('script'),
    ['line-inert'],
    'damaged',
  ]),
  ...[
    ['with a version of the site’s', 'askbox.js"', 'askbox.js?ver=6.4"'],
    ['with its type', '<script', '<script type="text/javascript"'],
  ].map(([what, from, to]): [string, PageToCheck, ExpectedCode, string[], string] => [
    `the shared line ${what}`,
    page(codes.script!.html, { head: line.replace(from!, to!) }),
    expected('script'),
    [],
    'whole',
  ]),
  [
    'the shared line twice',
    page(codes.script!.html, { head: line + line }),
    expected('script'),
    ['line-twice'],
    'whole',
  ],
  [
    'inside another form',
    page(`<form action="/search">${codes.plain!.html}</form>`),
    expected('plain'),
    ['inside-form'],
    'whole',
  ],
  [
    'sending over http from https',
    page(codes.plain!.html.replaceAll('https://forms', 'http://forms')),
    expected('plain', { receiver: 'http://forms.example' }),
    ['http-action'],
    'damaged',
  ],
  [
    'a policy against forms',
    page(codes.plain!.html, { policies: ["form-action 'self'; default-src 'none'"] }),
    expected('plain'),
    ['policy', 'policy'],
    'damaged',
  ],
  [
    'a policy whose nonce our styles have not',
    page(codes.plain!.html, { policies: ["style-src 'unsafe-inline' 'nonce-abc'"] }),
    expected('plain'),
    ['policy'],
    'damaged',
  ],
  [
    'a policy that allows it',
    page(codes.script!.html, {
      head: line,
      policies: [`default-src 'self'; script-src ${RECEIVER}; connect-src https:`],
    }),
    expected('script'),
    [],
    'whole',
  ],
  [
    'a policy in the page',
    page(codes.frame!.html, { head: '<meta http-equiv="Content-Security-Policy" content="frame-src \'none\'">\n' }),
    expected('frame'),
    ['policy'],
    'damaged',
  ],
])('%s', (_, shown, asked, found, state) => {
  const report = checkInstall(shown, asked)
  expect([codesIn(report), report.state]).toEqual([found, state])
})

describe('what was changed by hand', () => {
  const of = (change: (html: string) => string) => checkInstall(page(change(codes.plain!.html)), expected('plain'))

  test.each<[string, (html: string) => string, string[]]>([
    ['words', (html) => html.replace('Another one', 'Yet another'), ['words']],
    ['colours', (html) => html.replace(/--askbox-button:#\w+/, '--askbox-button:#123456'), ['colours']],
    ['a rule', (html) => html.replace('padding:0.5em', 'padding:2em'), ['its styles']],
    [
      'both',
      (html) => html.replace('Another one', 'New').replace(/--askbox-text:#\w+/, '--askbox-text:#000'),
      ['colours', 'words'],
    ],
  ])('%s: no damage', (_, change, edits) => {
    expect(of(change)).toMatchObject({ state: 'edited', edits, findings: [] })
  })

  test.each<[string, (html: string) => string, RegExp]>([
    ['a field renamed', (html) => html.replace('name="first-name"', 'name="forename"'), /“first-name” is missing/],
    ['a field taken out', (html) => html.replace(/<input [^>]*name="email"[^>]*>/, ''), /“email” is missing/],
    [
      'another address',
      (html) => html.replace('action="https://forms.example/join', 'action="https://elsewhere.example/join'),
      /another address/,
    ],
    ['by get', (html) => html.replaceAll('method="post"', 'method="get"'), /not sent by post/],
    ['without its styles', (html) => html.replace(/(<style>)[^]*(<\/style>)/, '$1$2'), /style sheet is missing/],
  ])('%s: damage', (_, change, says) => {
    const report = of(change)
    expect(report.state).toBe('damaged')
    expect(report.findings.map(({ message }) => message).join(' ')).toMatch(says)
  })
})

test('in a page of 2 MB the code is found as in a small one, with its lines', () => {
  const far = '<div class="a"><p>Some <b>text</b> &amp; more</p><script>if (a < b) "<form>"</script></div>\n'
  const near = page(codes.plain!.html)
  const small = checkInstall(page(mangled(codes.plain!.html, 'as-text')), expected('plain'))
  const long = (html: string) =>
    html.replace('<main>', `<form action="/far">${far.repeat(12_000)}`).replace('</main>', far.repeat(12_000))
  expect(checkInstall({ ...near, html: long(near.html) }, expected('plain'))).toMatchObject({
    state: 'whole',
    findings: [{ code: 'inside-form' }],
  })
  const damaged = checkInstall(
    { ...near, html: long(page(mangled(codes.plain!.html, 'as-text')).html) },
    expected('plain'),
  )
  expect(damaged.findings).toEqual(
    small.findings.map((finding) => ({ ...finding, lines: finding.lines!.map((at) => at + 12_000) })),
  )
})

test('property: whichever form, whole code is whole, and no damage that changes it goes unnoticed', () => {
  const texts = textsOf('en')
  const kinds = ['first-name', 'phone', 'topics', 'consent', 'birthday', 'address', 'choose-one', 'text'] as const
  fc.assert(
    fc.property(
      fc.constantFrom(...shapes),
      fc.uniqueArray(fc.constantFrom(...kinds), { maxLength: 4 }),
      fc.constantFrom(...(Object.keys(manglings) as Mangling[])),
      (shape, more, mangling) => {
        const made = { ...startContent('A list', shape) }
        const form = { ...made, fields: [newField('email', texts), ...more.map((kind) => newField(kind, texts))] }
        const asked = expected('plain', { versions: [{ ...version, content: form }] })
        const html = plainCode(placed({ ...version, content: form }))
        expect(checkInstall(page(html), asked).state).toBe('whole')
        const after = mangled(html, mangling)
        const isSame =
          mangled(after) === html ||
          mangling === 'no-scripts' ||
          mangling === 'no-frames' ||
          mangling === 'no-style-attributes'
        if (!isSame) expect(checkInstall(page(after), asked).state).toBe('damaged')
      },
    ),
    { numRuns: 40 },
  )
})
