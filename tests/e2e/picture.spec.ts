import fc from 'fast-check'
import { sampleAnswers } from '#core/form'
import type { FormId, SpotId } from '#core/ids'
import { previewPage, renderForm } from '#core/render'
import { type RichText, type Span, tidied } from '#core/text'
import { anyContent, anyRich } from '../tables/any-form'
import type * as parts from './picture-parts'
import { expect, test } from './box'
import { pageScript } from './page-script'

declare const Picture: typeof parts

test('property: from any form to any other, the picture becomes what was rendered, and stays that without being touched again', async ({
  page,
}) => {
  const contents = fc.sample(fc.tuple(anyContent, fc.constantFrom(null, 'everyday' as const, 'long' as const)), 60)
  const pages = contents.map(([content, filled]) =>
    previewPage(
      [
        renderForm(
          {
            content,
            form: 'someform' as FormId,
            version: 1,
            spot: 'somespot' as SpotId,
            receiver: 'https://forms.example',
            showsNoVideo: true,
          },
          filled ? { values: sampleAnswers(content.fields, filled), errors: {} } : undefined,
        ),
      ],
      '0',
    ),
  )
  await page.goto('about:blank')
  await page.addScriptTag({ content: await pageScript('picture-parts.ts', 'Picture') })
  const wrong = await page.evaluate((all) => {
    const wrong: string[] = []
    const parse = (html: string) => new DOMParser().parseFromString(html, 'text/html')
    /** What a visitor's browser would have of it, with what was filled in. */
    const state = (root: ParentNode) =>
      [...root.querySelectorAll<HTMLInputElement>('input, select, textarea')]
        .map((one) => `${one.name}=${one.type === 'checkbox' || one.type === 'radio' ? one.checked : one.value}`)
        .join('&')
    const difference = (one: string, other: string) => {
      let at = 0
      while (one[at] === other[at]) at++
      return `${one.slice(at - 60, at + 60)} and not ${other.slice(at - 60, at + 60)}`
    }
    document.body.innerHTML = parse(all[0]!).body.innerHTML
    for (const [at, html] of all.entries()) {
      const wanted = parse(html)
      // Somebody wrote in a field, and the workshop has made the heading writable.
      document.querySelector<HTMLInputElement>('input[name=email]')!.value = 'ada@'
      document.querySelector('.askbox-heading')?.setAttribute('contenteditable', 'plaintext-only')
      Picture.morph(document.body, wanted.body)
      document.querySelectorAll('[contenteditable]').forEach((one) => one.removeAttribute('contenteditable'))
      if (!document.body.isEqualNode(wanted.body))
        wrong.push(`${at}: other nodes, ${difference(document.body.innerHTML, wanted.body.innerHTML)}`)
      const fresh = document.createElement('div')
      fresh.innerHTML = wanted.body.innerHTML
      if (state(document.body) !== state(fresh))
        wrong.push(`${at}: other answers, ${state(document.body)} and not ${state(fresh)}`)
      const before = [...document.querySelectorAll('body *')]
      document.querySelector<HTMLElement>('input[name=email]')!.focus()
      Picture.morph(document.body, parse(html).body)
      const after = [...document.querySelectorAll('body *')]
      if (
        before.some((node, index) => node !== after[index]) ||
        (document.activeElement as HTMLInputElement).name !== 'email'
      )
        wrong.push(`${at}: not at rest`)
    }
    return wrong
  }, pages)
  expect(wrong).toEqual([])
})

test('property: any rich text, shown and read again, is the same text', async ({ page }) => {
  const all = fc.sample(anyRich, 400).map(settled)
  const content = fc.sample(anyContent, 1)[0]!
  const pages = all.map((introduction) =>
    previewPage(
      [
        renderForm({
          content: { ...content, words: { ...content.words, introduction } },
          form: 'someform' as FormId,
          version: 1,
          spot: 'somespot' as SpotId,
          receiver: 'https://forms.example',
          showsNoVideo: true,
        }),
      ],
      '0',
    ),
  )
  await page.goto('about:blank')
  await page.addScriptTag({ content: await pageScript('picture-parts.ts', 'Picture') })
  const read = await page.evaluate(
    (htmls) =>
      htmls.map((html) => {
        const place = new DOMParser()
          .parseFromString(html, 'text/html')
          .querySelector<HTMLElement>('.askbox-introduction')
        return place === null ? [] : Picture.readRich(document.body.appendChild(document.adoptNode(place)))
      }),
    pages,
  )
  for (const [at, rich] of all.entries()) expect(read[at]).toEqual(rich)
})

/** As it is kept: neighbours of one format joined, no empty stretches, no line break that ends a block. */
function settled(rich: RichText): RichText {
  const spans = (all: readonly Span[]): Span[] => {
    const kept = tidied(all)
    const last = kept.at(-1)
    return last?.text.endsWith('\n') ? spans([...kept.slice(0, -1), { ...last, text: last.text.slice(0, -1) }]) : kept
  }
  return rich
    .map((block) =>
      block.kind === 'paragraph'
        ? { ...block, spans: spans(block.spans) }
        : { ...block, items: block.items.map(spans).filter((item) => item.length > 0) },
    )
    .filter((block) => (block.kind === 'paragraph' ? block.spans : block.items).length > 0)
}
