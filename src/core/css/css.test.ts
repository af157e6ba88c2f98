import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { generate, walk } from 'css-tree'
import fc from 'fast-check'
import { nearestFont } from '#core/look'
import { formStyles, landingPage, toDocument } from '#core/render'
import { content, form, spot } from '../../../tests/tables/samples'
import { atTopLevel } from './commas'
import { parseSheet } from './parse'
import { paletteIn, readCustomCss, rulesHeld, statesIn } from '.'

const kept = (name: string) => readFileSync(resolve(__dirname, 'kept', name), 'utf8')

describe('colours of ten kept style sheets of different make', () => {
  test.each([
    {
      name: '01-custom-properties.css',
      background: '#fdfaf4',
      text: '#22303c',
      accent: '#b64320',
      font: '"Lora",Georgia,serif',
    },
    {
      name: '02-plain-hex.css',
      background: '#ffffff',
      text: '#333333',
      accent: '#003366',
      font: 'Verdana,Arial,sans-serif',
    },
    {
      name: '03-minified-utilities.css',
      background: '#f9fafb',
      text: '#111827',
      accent: '#0d9488',
      font: 'ui-sans-serif,system-ui,sans-serif',
    },
    {
      name: '04-oklch.css',
      background: '#faf8f1',
      text: '#202938',
      accent: '#6b5dcf',
      font: '"Inter Tight",sans-serif',
    },
    {
      name: '05-compiled-theme.css',
      background: '#ffffff',
      text: '#4f5d75',
      accent: '#ef8354',
      font: '"Source Serif Pro",Georgia,serif',
    },
    {
      name: '06-night-site.css',
      background: '#0d1117',
      text: '#c9d1d9',
      accent: '#238636',
      font: '"IBM Plex Sans",sans-serif',
    },
    { name: '07-named-colours.css', background: '#fffff0', text: '#2f4f4f', accent: '#800000', font: 'Georgia' },
    {
      name: '08-wide-gamut.css',
      background: '#ffffff',
      text: '#322e3f',
      accent: '#1a66b3',
      font: 'Optima,Candara,sans-serif',
    },
    {
      name: '09-page-source.html',
      background: '#fef6e4',
      text: '#172c66',
      accent: '#f582ae',
      font: '"Nunito",sans-serif',
    },
    { name: '10-broken.css', background: '#faf5ff', text: '#3b0764', accent: '#7e22ce', font: '"Karla",sans-serif' },
  ])('$name', ({ name, background, text, accent, font }) => {
    const reading = paletteIn(kept(name))
    expect(reading).toMatchObject({ ok: true, palette: { background, text, accent, font } })
    const uses = reading.ok ? reading.found.map((one) => one.uses) : []
    expect(uses).toEqual([...uses].sort((one, other) => other - one))
  })

  test.each([
    [
      'an inline picture',
      'body{background:#fdfaf4 url("data:image/svg+xml,<svg xmlns=\'x\'><path/></svg>")} a{color:#b64320}',
    ],
    [
      'attr() and @property',
      "@property --x{syntax:'<color>';inherits:true;initial-value:red} body{background:#fdfaf4} a::after{content:attr(title)} a{color:#b64320}",
    ],
    ['a tag in a comment', '/* see <main> below */ body{background:#fdfaf4} a{color:#b64320}'],
  ])('a sheet with %s is a sheet', (_, sheet) => {
    expect(paletteIn(sheet)).toMatchObject({ ok: true, palette: { background: '#fdfaf4', accent: '#b64320' } })
  })

  test.each([
    [
      'the button that is to be pressed, not the first',
      '.btn-danger{background:#c00}.btn{border-radius:4px}.btn-primary{background:#0a6}a{color:#00f}',
      { accent: '#00aa66', manner: { buttonCorner: 4 } },
    ],
    [
      'what the site calls its main colour, where buttons take theirs from elsewhere',
      ':root{--site-primary:#1f5f8b;--site-danger:#a3244f}.btn{background-color:var(--btn-bg)}a{color:#111}',
      { accent: '#1f5f8b' },
    ],
    [
      'of rules for the same button, the last',
      'button{background:#e33}button{background:#063;padding:16px 24px;border-radius:999px}',
      { accent: '#006633', manner: { buttonCorner: 40, size: 'large' } },
    ],
    [
      'headings of another make, outlined buttons, square fields',
      'body{font-family:Karla,sans-serif}h1,h2{font:inherit;font-family:"Lora",serif;font-weight:500}button{background:transparent;border:2px solid #333;border-radius:0}input{border-radius:0}a{color:#b64320}',
      {
        accent: '#b64320',
        manner: {
          headingFamily: '"Lora",serif',
          headingWeight: '500',
          buttonFill: 'outline',
          buttonCorner: 0,
          fieldCorner: 0,
        },
      },
    ],
  ])('%s', (_, sheet, palette) => {
    expect(paletteIn(`body{background:#fff;color:#222}${sheet}`)).toMatchObject({ ok: true, palette })
  })

  test('what holds no colour is said to hold none, and nothing makes reading throw', () => {
    expect(paletteIn('Dear all, the letter is late.').ok).toBe(false)
    const piece = fc.constantFrom(
      'body{',
      '}',
      'color:',
      '#abc',
      'var(--a',
      ')',
      '--a:var(--a)',
      ';',
      '<style>',
      '</style>',
      'color-mix(in srgb,red',
      '@media',
      '"',
      '/*',
      'calc(',
    )
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.array(piece, { maxLength: 30 }).map((all) => all.join('')),
        ),
        (text) => typeof paletteIn(text).ok === 'boolean',
      ),
    )
  })
})

test.each([
  ['"Lora",Georgia,serif', 'bookish'],
  ['"Inter Tight",sans-serif', 'system'],
  ['Verdana,Arial,sans-serif', 'humanist'],
  ['"IBM Plex Mono",monospace', 'typewriter'],
  ['"Nunito",sans-serif', 'geometric'],
])('a font like %s is %s', (family, key) => {
  expect(nearestFont(family)).toBe(key)
})

describe('an owner’s own CSS', () => {
  test.each([
    { typed: '.askbox-button{text-transform:uppercase}', rules: 1, leftOut: 0 },
    { typed: '@media (max-width:480px){form{padding:4px}}', rules: 1, leftOut: 0 },
    { typed: 'p{background:url(https://evil.example/x.png)}', rules: 0, leftOut: 1 },
    { typed: 'form{position:fixed;inset:0}', rules: 0, leftOut: 2 },
    { typed: '@import url(x.css); @font-face{src:url(y)}', rules: 0, leftOut: 2 },
    { typed: 'form + p{display:none} ~ *{color:red}', rules: 0, leftOut: 2 },
    { typed: 'p{behavior:url(#x);-moz-binding:url(x)}', rules: 0, leftOut: 2 },
    { typed: 'a[href="</style><script>"]{color:red}', rules: 0, leftOut: 1 },
    { typed: 'p{color:expression(alert(1))}', rules: 0, leftOut: 1 },
  ])('$typed', ({ typed, rules, leftOut }) => {
    const reading = readCustomCss(typed)
    expect([reading.rules.length, reading.leftOut.length]).toEqual([rules, leftOut])
  })

  // Held, a rule weighs what it weighed: a pseudo-class for a pseudo-class.
  test.each([
    {
      selector: '.askbox-button:hover',
      says: ['hover'],
      held: { hover: '.askbox-button:not(._)', focus: '.askbox-button:hover' },
    },
    {
      selector: 'form:focus-within .askbox-label',
      says: ['focus'],
      held: {
        hover: 'form:focus-within .askbox-label',
        focus: 'form:not(._) .askbox-label',
      },
    },
    {
      selector: '.askbox-input:not(:focus-visible)',
      says: ['focus'],
      held: {
        hover: '.askbox-input:not(:focus-visible)',
        focus: '.askbox-input:not(:not(._))',
      },
    },
    {
      selector: '.is-hover:checked',
      says: [],
      held: { hover: '.is-hover:checked', focus: '.is-hover:checked' },
    },
  ] as const)('the states of $selector', ({ selector, says, held }) => {
    const { rules } = readCustomCss(`${selector}{color:red}`)
    expect(statesIn(rules)).toEqual(says)
    for (const state of ['hover', 'focus'] as const)
      expect(rulesHeld(rules, state)[0]!.selectors).toEqual([held[state]])
  })

  test.each([
    'form:not(a b) ~ *',
    'form:not(.a) + p',
    ':scope:is(a) ~ p',
    'form:is(p,q) ~ *',
    'form:nth-child(2n + 1) ~ *',
    '+ p',
    '~ p',
    'a:not(b ~ c)',
    'a:unknown(b)',
    ':root p',
    ':host',
    'a::part(x)',
    'a:not(',
    'a)b',
    '[a=b',
  ])(
    'a selector that could leave the form, or cannot be told to stay, is left out and named, and never rendered: %s',
    (selector) => {
      const { rules, leftOut } = readCustomCss(`${selector}{color:red} p{color:red}`)
      // What is no selector at all may take the rest of the sheet with it.
      expect(rules.flatMap(({ selectors }) => selectors).filter((one) => one !== 'p')).toEqual([])
      expect(leftOut.length).toBeGreaterThan(0)
      const kept = { media: null, selectors: [selector, 'p'], declarations: [{ property: 'color', value: 'red' }] }
      const css = formStyles({
        content: { ...content, look: { ...content.look, custom: { typed: '', rules: [kept] } } },
        spot: spot.id,
        receiver: '',
      })
      expect(css).not.toContain(selector)
    },
  )

  test.each([
    'form',
    'form > p',
    'form:focus-within .askbox-label',
    ':scope a',
    'p + p',
    'a ~ b',
    '.askbox-input:not(:focus-visible)',
    'li:nth-child(2n + 1)',
    '[name="email"]',
    'p::first-line',
    '*',
    'p:not(.x):hover > a',
  ])('a selector that stays is taken: %s', (selector) => {
    expect(readCustomCss(`${selector}{color:red}`)).toMatchObject({
      rules: [{ declarations: [{ property: 'color' }] }],
      leftOut: [],
    })
  })

  test('nothing moves the form itself, and what moves within it ends at its edge', () => {
    const { rules, leftOut } = readCustomCss(
      'form{position:absolute;top:0;margin:-9em 1em;color:red} p{position:absolute;top:-900px}',
    )
    expect(rules[0]!.declarations).toEqual([{ property: 'color', value: 'red' }])
    expect(leftOut).toHaveLength(3)
    const placed = (own: typeof rules) =>
      formStyles({
        content: { ...content, look: { ...content.look, custom: { typed: '', rules: own } } },
        spot: spot.id,
        receiver: '',
      })
    expect(placed(rules)).toContain('overflow:clip')
    expect(placed(rules.slice(0, 1))).not.toContain('overflow:clip')
  })

  test('what was read before never keeps a reading from ending', () => {
    // Found by random texts: after the first, the tokenizer took the second for a text that never ends.
    const before = ':root > /* :is( " + '.repeat(3)
    for (const text of [
      before,
      'a { b ( c [ d'.repeat(4),
      '} position:fixed > } p',
      '[a=b] html --x:1 > ) !important { ;',
    ])
      readCustomCss(text)
    const pieces = ['p', '{', '}', '(', ')', '[', ']', ';', ':is(', '!important', '--x:1', '>']
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...pieces), { maxLength: 30 }), (all) => void readCustomCss(all.join(' '))),
      { numRuns: 1_000 },
    )
  })

  test('property: whatever is typed, every rule stays within the form and loads nothing', () => {
    const piece = fc.constantFrom(
      'p',
      'form',
      ':scope',
      '+',
      '~',
      '>',
      '*',
      '{',
      '}',
      ';',
      'color:red',
      'background:url(x)',
      'position:fixed',
      '@media (min-width:3px)',
      '@import "a"',
      '</style>',
      '\\',
      '"',
      '/*',
      '*/',
      ',',
      ':is(',
      ')',
      '[a=b]',
      '--x:1',
      '!important',
      'html',
      ':root',
    )
    const several = fc.array(piece, { minLength: 1, maxLength: 3 }).map((all) => all.join(' '))
    // Loose pieces, and pieces put together as a rule would be.
    const rule = fc
      .tuple(fc.constantFrom('p', 'form', ':scope > a', '*', 'form *'), several, several)
      .map(([first, more, declared]) => `${first} ${more} {color:red;${declared}}`)
    let taken = 0
    fc.assert(
      fc.property(
        fc.array(fc.oneof(piece, rule, fc.constant('p{color:red}')), { maxLength: 12 }).map((all) => all.join(' ')),
        (typed) => {
          const { rules } = readCustomCss(typed)
          taken += rules.length
          const placed = (own: typeof rules) => ({
            content: { ...content, look: { ...content.look, custom: { typed, rules: own } } },
            form: form.id,
            version: 1,
            spot: spot.id,
            receiver: 'https://forms.example',
          })
          // On a landing page, what stands around the form is the form's as well: rules for it come last.
          const aroundForm = (own: typeof rules) =>
            /<\/title>[\s\S]*?<style>([\s\S]*?)<\/style>/.exec(toDocument(landingPage(placed(own))))![1]!.trimEnd()
          const css = formStyles(placed(rules)) + aroundForm(rules).slice(aroundForm([]).length)
          expect(css).not.toMatch(/@import|<\//)
          walk(parseSheet(css), (node) => {
            if (node.type === 'Declaration')
              expect(generate(node.value)).not.toMatch(node.property === 'position' ? /url\(|fixed|sticky/ : /url\(/)
          })
          walk(parseSheet(css), {
            visit: 'Rule',
            enter(rule) {
              if (this.atrule?.name === 'keyframes') return
              for (const selector of atTopLevel(generate(rule.prelude)))
                expect(selector).toMatch(/^(\.askbox-at-samplespot|main):not\(#a#b\)/)
              // Nothing beside the form: no sibling of the form itself.
              expect(generate(rule.prelude)).not.toMatch(/:not\(#a#b\)(:[\w-]+(\([^ ]*\))?)*\s*[+~]/)
            },
          })
        },
      ),
      { numRuns: 120 },
    )
    expect(taken).toBeGreaterThan(0)
  })
})

/** What these sheets give body, button and link in Chromium, read off their sources. */
test.each([
  ['@picocss/pico/css/pico.css', '#ffffff', '#373c44', '#0172ad'],
  ['milligram/dist/milligram.css', '#ffffff', '#606c76', '#9b4dca'],
  ['water.css/out/water.css', '#ffffff', '#363636', '#0076d1'],
])('the colours of the public sheet %s', (name, background, text, accent) => {
  const reading = paletteIn(readFileSync(resolve(__dirname, '../../../node_modules', name), 'utf8'))
  expect(reading).toMatchObject({ ok: true, palette: { background, text, accent } })
})

test.each([
  ['a comment with a tag', '/* for <body> and <html > */ body{color:#123456}', '#123456'],
  [
    'a picture in the sheet',
    'a{background:url("data:image/svg+xml,<svg xmlns=\'x\'><style >p{fill:#f00}</style></svg>")} body{color:#123456}',
    '#123456',
  ],
  [
    'a registered property',
    "@property --c { syntax: '<color>'; inherits: true; initial-value: #f00 } body{color:#123456}",
    '#123456',
  ],
  ['a value from an attribute', 'p::after{content:attr(data-red);color:attr(data-c)} body{color:#123456}', '#123456'],
  ['a component’s own property', ':root{--text:#123456} .card{--text:#ff0000} body{color:var(--text)}', '#123456'],
  [
    'what is not dark',
    ':root:not([data-theme=dark]){--text:#123456} [data-theme=dark]{--text:#eeeeee} body{color:var(--text)}',
    '#123456',
  ],
])('%s takes nothing from a sheet', (_, css, text) => {
  expect(paletteIn(css)).toMatchObject({ ok: true, palette: { text } })
})
