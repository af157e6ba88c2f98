import fc from 'fast-check'
import { readCustomCss } from '#core/css'
import { newField, shapes, startContent } from '#core/form'
import type { FormId, SpotId } from '#core/ids'
import { previewPage, renderForm, toDocument } from '#core/render'
import { bullets, richText } from '#core/text'
import { textsOf } from '#core/texts'
import { violatingNodes } from './axe'
import { expect, test } from './box'
import { drawer, picture } from './form-station'
import type * as parts from './measuring-parts'
import { pageScript } from './page-script'

declare const Measuring: typeof parts
const script = pageScript('measuring-parts.ts', 'Measuring')

const anyColour = fc.integer({ min: 0, max: 0xffffff }).map((number) => `#${number.toString(16).padStart(6, '0')}`)
/** Within sRGB at every hue, by culori: what lies beyond it is cut off before it fades or after, as Chromium likes. */
const anyOklch = fc
  .tuple(fc.integer({ min: 24, max: 91 }), fc.nat(360))
  .map(([lightness, hue]) => `oklch(${lightness}% 0.04 ${hue})`)
/** Colours in several syntaxes, some seen through; grounds likewise. */
const anySeen = fc.oneof(
  anyColour,
  fc
    .tuple(anyColour, fc.integer({ min: 20, max: 100 }))
    .map(([hex, share]) => `color-mix(in srgb, ${hex} ${share}%, transparent)`),
  anyOklch,
)
const places = [
  '.askbox-heading',
  '.askbox-introduction',
  '.askbox-introduction a',
  '.askbox-points li',
  '.askbox-label',
  '.askbox-option',
  '.askbox-small',
] as const
const anyRule = fc
  .oneof(
    fc.tuple(
      fc.constantFrom('form', '.askbox-row', '.askbox-button', ...places),
      anySeen.map((colour) => `color: ${colour}`),
    ),
    fc.tuple(
      fc.constantFrom('form', '.askbox-row', '.askbox-button', '.askbox-points', '.askbox-option'),
      anySeen.map((colour) => `background: ${colour}`),
    ),
    // Of what fades together with its own ground, axe-core takes the ground alone; that is held against pixels below.
    fc.tuple(
      fc.constantFrom('.askbox-heading', '.askbox-introduction', '.askbox-small'),
      fc.integer({ min: 3, max: 10 }).map((tenths) => `opacity: ${tenths / 10}`),
    ),
    fc.tuple(
      fc.constantFrom(...places),
      fc.constantFrom('font-size: 1.2em; font-weight: 700', 'font-size: 24px', 'font-size: 12px'),
    ),
  )
  .map(([selector, declarations]) => `${selector} { ${declarations} }`)

test('texts that read too badly under an owner’s own CSS are those that axe-core finds', async ({ page }) => {
  const texts = textsOf('en')
  const content = startContent('Our letter', shapes[0]!)
  content.words = {
    ...content.words,
    introduction: [
      {
        kind: 'paragraph',
        spans: [{ text: 'Once a month, and ' }, { text: 'how we keep addresses', link: 'https://a.example/' }],
      },
    ],
    points: bullets(['What we saw', 'What is next']),
    small: richText('Leave whenever you like.'),
  }
  content.fields = [...content.fields, newField('topics', texts)]
  let failing = 0
  for (const rules of fc.sample(fc.array(anyRule, { minLength: 2, maxLength: 6 }), 15)) {
    const css = rules.join('\n')
    const own = { ...content, look: { ...content.look, custom: { typed: css, rules: readCustomCss(css).rules } } }
    await page.setContent(
      toDocument(
        previewPage(
          [
            renderForm({
              content: own,
              form: 'someform' as FormId,
              version: 1,
              spot: 'somespot' as SpotId,
              receiver: 'https://forms.example',
            }),
          ],
          '0',
          'body{background:#fff!important}',
        ),
      ),
    )
    await page.addScriptTag({ content: await script })
    const ours = await page.evaluate(() => {
      for (const [at, node] of document.querySelectorAll('form *').entries())
        node.setAttribute('data-number', String(at))
      return Measuring.textsIn(document)
        .filter(({ element }) => !element.matches('input, select, textarea'))
        .map(({ element, colour, isLarge }) => {
          const { colour: hex, opacity, grounds, under } = Measuring.laidOn(element, colour, '#ffffff')
          return {
            number: element.getAttribute('data-number'),
            ratio: Measuring.worstContrast(hex, grounds, opacity, under).ratio,
            wanted: isLarge ? 3 : 4.5,
          }
        })
    })
    const violations = await violatingNodes(page, { only: ['color-contrast'] })
    const theirs = violations.flatMap(({ nodes }) => nodes.map((html) => /data-number="(\d+)"/.exec(html)?.[1]))
    // Where a rounded colour decides, the two may differ; of a text in the colour of its ground, axe-core says nothing.
    const sure = ours.filter(({ ratio, wanted }) => Math.abs(ratio - wanted) > 0.1 && ratio > 1.05)
    expect([css, sure.filter(({ ratio, wanted }) => ratio < wanted).map(({ number }) => number)]).toEqual([
      css,
      sure.map(({ number }) => number).filter((number) => theirs.includes(number!)),
    ])
    failing += theirs.length
  }
  expect(failing).toBeGreaterThan(10)
})

test('property: a text’s colour and ground, through whatever it stands in, are the pixels that Chromium draws', async ({
  page,
}) => {
  const anyBox = fc
    .tuple(anySeen, fc.boolean(), fc.integer({ min: 2, max: 10 }))
    .map(([colour, hasGround, tenths]) => `${hasGround ? `background: ${colour}; ` : ''}opacity: ${tenths / 10}`)
  const chains = fc.sample(fc.tuple(fc.array(anyBox, { minLength: 1, maxLength: 4 }), anySeen), 60)
  // What is struck through by a line thicker than itself is all in its colour.
  const text = (colour: string) =>
    `<p style="margin:10px 0 10px 10px;width:20px;height:10px;font:8px/10px sans-serif;color:${colour};text-decoration:line-through 40px currentColor">xx</p>`
  const boxes = chains.map(([styles, colour]) =>
    styles.reduceRight((inner, style) => `<div style="${style}">${inner}</div>`, text(colour)),
  )
  await page.setContent(
    `<!DOCTYPE html><body style="margin:0;background:#fff;display:grid;grid-template-columns:repeat(10,60px)">${boxes.map((box) => `<div style="height:60px;overflow:hidden">${box}</div>`).join('')}`,
  )
  await page.addScriptTag({ content: await script })
  const picture = (await page.screenshot()).toString('base64')
  const differences = await page.evaluate(async (base64) => {
    const bitmap = await createImageBitmap(await (await fetch(`data:image/png;base64,${base64}`)).blob())
    const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d')!
    context.drawImage(bitmap, 0, 0)
    const drawn = (left: number, top: number) => [...context.getImageData(left, top, 1, 1).data].slice(0, 3)
    const channels = (hex: string) => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16))
    return [...document.querySelectorAll('p')].flatMap((element) => {
      const { left, top } = element.getBoundingClientRect()
      const { colour, opacity, grounds, under } = Measuring.laidOn(
        element,
        Measuring.seenColour(getComputedStyle(element).color),
        '#ffffff',
      )
      const ours = [...channels(Measuring.mix(colour, under[0]!, opacity)), ...channels(grounds[0]!)]
      const theirs = [...drawn(left + 4, top + 5), ...drawn(left + 40, top + 5)]
      return [Math.max(...ours.map((channel, at) => Math.abs(channel - theirs[at]!)))]
    })
  }, picture)
  expect(differences).toHaveLength(60)
  // Each of four boxes rounds its ground and its fading, in Chromium to whole steps below.
  expect(Math.max(...differences)).toBeLessThanOrEqual(8)
})

test('what an owner’s own CSS spoils is found as it is drawn, and not what it does well', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/forms/schoolsform`)
  // What is spoilt in one place has no part in another's finding, so that several are looked at together.
  const cases: [css: string, findings: RegExp[]][] = [
    [
      `.askbox-small { opacity: .4 } .askbox-label { color: oklch(0.75 0.02 180) }
      .askbox-input { border-color: #d0e0da; background: #e2ebe6 }`,
      [
        /^A label: 1\.\d\d : 1 as your own CSS draws it, where 4\.5/,
        /^The small line: 2\.\d\d : 1 as your own CSS/,
        /^The fields: 1\.\d\d : 1 as your own CSS draws it, where 3 : 1/,
      ],
    ],
    [
      `.askbox-heading { text-transform: uppercase; color: #123 }
      form { background: linear-gradient(#fff, #eef4f0) } .askbox-input { border-width: 3px }
      .askbox-button:hover { background: #123; color: #fff }
      .askbox-input:focus-visible { outline: 3px solid #245; background: #fffff0 }`,
      [],
    ],
    [
      `.askbox-label { display: none } .askbox-error { display: none }
      @media (min-width: 600px) { .askbox-button { visibility: hidden } }`,
      [
        /^Your own CSS hides the button at 680 px: nobody/,
        /^Your own CSS hides a label at 320, 360 and 680 px/,
        /^Your own CSS hides what is wrong with an answer at 320, 360 and 680 px/,
      ],
    ],
    [
      `.askbox-button:hover { background: #fdfdfd; color: #ddd }`,
      [
        /^The button’s words under the pointer: 1\.\d\d : 1 as your own CSS draws it/,
        /^The button under the pointer: 1\.\d\d : 1 as your own CSS draws it/,
      ],
    ],
    [
      '.askbox-input { outline: none } .askbox-result { visibility: hidden }',
      [/takes away the outline/, /hides what visitors are told/],
    ],
  ]
  for (const [css, findings] of cases) {
    await drawer(workshop, 'Look')
    await workshop.getByRole('button', { name: 'Your own CSS' }).click()
    await workshop.getByRole('textbox', { name: 'Your own CSS' }).fill(css)
    await drawer(workshop, 'Checkup')
    const faults = workshop.locator('.fault, .stops').locator('p:first-child')
    await expect(faults, css).toHaveText(findings)
  }
})

test('on a landing page with its picture behind, the words over it are measured there, and not those on the card', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/forms/starchartform`)
  await drawer(workshop, 'Words')
  await workshop.getByLabel('Behind').check()
  await workshop.getByRole('slider', { name: 'Strength' }).press('End')
  await drawer(workshop, 'Checkup')
  // The same colour on the same ground is one fault, however many texts it meets.
  await expect(workshop.getByText(/^The (heading|text): .* over the picture at/).first()).toBeVisible()
  await expect(workshop.getByText(/^(A label|A choice|The small line|The button): .* over the picture/)).toHaveCount(0)

  // An owner's own CSS reaches what stands around the form there, and is measured over the picture as well.
  await drawer(workshop, 'Look')
  await workshop.getByRole('button', { name: 'Your own CSS' }).click()
  await workshop
    .getByRole('textbox', { name: 'Your own CSS' })
    .fill('.askbox-heading { color: #1d2433 } form { border: 2px dashed }')
  await expect(picture(workshop).locator('.askbox-heading')).toHaveCSS('color', 'rgb(29, 36, 51)')
  await expect(picture(workshop).locator('.askbox-card')).toHaveCSS('border-top-width', '2px')
  await expect(picture(workshop).locator('main')).toHaveCSS('border-top-width', '0px')
  await drawer(workshop, 'Checkup')
  await expect(workshop.getByText(/^The heading: \d\.\d\d : 1 as your own CSS draws it/)).toBeVisible()
})
