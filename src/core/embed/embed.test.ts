import fc from 'fast-check'
import { parseFragment, defaultTreeAdapter as tree } from 'parse5'
import { startContent } from '#core/form'
import { siteKinds } from '#core/site'
import { spotKinds } from '#core/spot'
import { afterPublishing, codeAdvice, codeOf, frameCode, heightsAt, linkCode, pasteSteps } from '.'

const cases = siteKinds.flatMap(({ kind: site }) => spotKinds.map(({ kind: spot }) => ({ site, spot })))

test.each(cases)(
  '$spot on $site: something works, each with its reason, and nothing is said twice',
  ({ site, spot }) => {
    const { works, ruledOut } = codeAdvice({ kind: spot }, { kind: site })
    const all = [...works, ...ruledOut]
    expect(works.length).toBeGreaterThan(0)
    expect(all.every(({ reason }) => reason.endsWith('.'))).toBe(true)
    expect(new Set(all.map(({ kind }) => kind)).size).toBe(all.length)
    // A link is the way that is left wherever all others are closed.
    expect(works.some(({ kind }) => kind === 'link')).toBe(true)
    if (spot !== 'landing')
      for (const { kind } of works)
        expect(pasteSteps({ kind: site }, spot, kind).every((step) => step.endsWith('.'))).toBe(true)
  },
)

test('an owner’s choice counts where it works, and only there', () => {
  expect(codeOf({ kind: 'inline' }, { kind: 'static-pages' })).toBe('plain')
  expect(codeOf({ kind: 'inline', code: 'link' }, { kind: 'static-pages' })).toBe('link')
  expect(codeOf({ kind: 'inline', code: 'plain' }, { kind: 'builder-without-code' })).toBe('link')
  expect(codeOf({ kind: 'sidebar', code: 'frame' }, { kind: 'self-hosted-blog' })).toBe('frame')
  expect(codeOf({ kind: 'landing', code: 'plain' }, { kind: 'static-pages' })).toBe('link')
})

test('a link says where it leads and in which words; nothing typed becomes markup', () => {
  const content = startContent('Our "letter" <b>')
  content.words.heading = 'Read <b>this</b> & that'
  const address = 'https://forms.example/page/somespot'
  const read = (code: string) => {
    const [link, ...others] = parseFragment(code.trim()).childNodes.filter(tree.isElementNode)
    const [said, words, ...more] = link!.childNodes
    expect([link!.tagName, others, said?.nodeName, more]).toEqual(['a', [], '#comment', []])
    return {
      ...Object.fromEntries(link!.attrs.map(({ name, value }) => [name, value])),
      words: (words as { value: string }).value,
    }
  }
  expect(read(linkCode(content, address, { shownAs: 'words', opens: 'here' }))).toEqual({
    href: address,
    hreflang: 'en',
    words: 'Read <b>this</b> & that',
  })
  expect(read(linkCode(content, address, { shownAs: 'button', opens: 'new-window' }))).toMatchObject({
    href: address,
    target: '_blank',
    rel: 'noopener',
    words: content.words.button,
  })
})

test('a frame has a title, a set size, and never sticks out', () => {
  const read = (code: string) =>
    Object.fromEntries(
      parseFragment(code.trim())
        .childNodes.filter(tree.isElementNode)
        .flatMap(({ attrs }) => attrs.map(({ name, value }) => [name, value])),
    )
  const address = 'https://forms.example/frame/somespot'
  expect(read(frameCode(address, 'Our "letter"', { width: null, height: 312 }))).toEqual({
    src: address,
    title: 'Our "letter"',
    height: '312',
    loading: 'lazy',
    style: 'width:100%;border:0',
  })
  expect(read(frameCode(address, 'x', { width: 480, height: 320 }))).toMatchObject({ width: '480', height: '320' })
})

test('a frame is as high as the form needs in the width of its place, and has a height where styles are taken out', () => {
  const heights = [
    { width: 320, height: 300 },
    { width: 600, height: 300 },
    { width: 602, height: 200 },
  ]
  const code = frameCode('https://forms.example/frame/x', 'x', { width: null, height: 300, heights })
  expect(code).toContain('height="300"')
  expect(code).toContain('height:calc(300px - clamp(0px,(100cqw - 601px)*100,100px))')
})

test('property: a form is measured closer where it suddenly becomes lower, and no height is lost between two widths', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.record({ at: fc.integer({ min: 200, max: 1200 }), by: fc.integer({ min: -60, max: 120 }) }), {
        maxLength: 4,
      }),
      async (steps) => {
        const heightOf = (width: number) => 900 - steps.reduce((sum, { at, by }) => sum + (width >= at ? by : 0), 0)
        const widths = Array.from({ length: 70 }, (_, at) => 136 + at * 16)
        const heights = (await heightsAt(widths, async (width) => ({ width, height: heightOf(width) })))!
        expect(heights.map(({ width }) => width)).toEqual(
          [...new Set(heights.map(({ width }) => width))].toSorted((a, b) => a - b),
        )
        for (const { width, height } of heights) expect(height).toBe(heightOf(width))
        for (const width of widths) expect(heights.some((one) => one.width === width)).toBe(true)
        // A single step down is known to two pixels.
        const [only] = steps
        if (steps.length === 1 && only!.by > 10 && only!.at < 1200) {
          const after = heights.findIndex(({ height }) => height < 900)
          expect(heights[after]!.width - heights[after - 1]!.width).toBeLessThanOrEqual(3)
        }
      },
    ),
  )
  expect(await heightsAt([1, 2], async () => null)).toBeNull()
})

test.each([
  [[], true, 'It needs a spot to be seen.'],
  [[{ kind: 'landing', code: 'link' }], false, 'Its page shows it already.'],
  [[{ kind: 'inline', code: 'plain' }], true, 'Next: copy the code and paste it into the page.'],
  [
    [{ kind: 'sidebar', code: 'plain' }],
    false,
    'Next: paste the new code into the side column, in the place of the old.',
  ],
  // A link shows each version by itself, and so does a script.
  [
    [{ kind: 'sidebar', code: 'link' }],
    false,
    'Where its code stands it shows by itself; nothing has to be pasted again.',
  ],
  [[{ kind: 'pop-up', code: 'script' }], true, 'Next: copy the code and paste it into the head of the page.'],
] as const)('after publishing, the next step for %j (first: %p) is said', (spots, isFirst, says) => {
  expect(afterPublishing(spots, isFirst)).toBe(says)
})
