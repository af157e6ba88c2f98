import fc from 'fast-check'
import { sampleAnswers } from '#core/form'
import type { FormId, SpotId } from '#core/ids'
import { type Page, previewPage, renderForm, toHtml } from '#core/render'
import { anyContent, anyRich } from '../tables/any-form'
import type * as parts from './preview-parts'
import { expect, test } from './box'
import { pageScript } from './page-script'

declare const Preview: typeof parts

/** The body of a page, as the workshop shows it and as a visitor's browser reads it. */
function bodyOf({ children }: Page): { body: Page; html: string } {
  const body = children[1] as Page
  return { body, html: toHtml(body) }
}

test('property: from any form to any other, the preview becomes what was rendered, and stays that without being touched again', async ({
  page,
}) => {
  const contents = fc.sample(fc.tuple(anyContent, fc.constantFrom(null, 'everyday' as const, 'long' as const)), 60)
  const pages = contents.map(([content, filled]) =>
    bodyOf(
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
    ),
  )
  await page.goto('about:blank')
  await page.addScriptTag({ content: await pageScript('preview-parts.ts', 'Preview') })
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
    document.body.innerHTML = parse(all[0]!.html).body.innerHTML
    for (const [at, { body, html }] of all.entries()) {
      const wanted = parse(html)
      // Somebody wrote in a field.
      document.querySelector<HTMLInputElement>('input[name=email]')!.value = 'ada@'
      Preview.morph(document.body, body)
      if (!document.body.isEqualNode(wanted.body))
        wrong.push(`${at}: other nodes, ${difference(document.body.innerHTML, wanted.body.innerHTML)}`)
      const fresh = document.createElement('div')
      fresh.innerHTML = wanted.body.innerHTML
      if (state(document.body) !== state(fresh))
        wrong.push(`${at}: other answers, ${state(document.body)} and not ${state(fresh)}`)
      const before = [...document.querySelectorAll('body *')]
      document.querySelector<HTMLElement>('input[name=email]')!.focus()
      Preview.morph(document.body, body)
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

test('property: a text that is written in stands as it was rendered, and a new rendering leaves it to its editor', async ({
  page,
}) => {
  const all = fc.sample(anyRich, 200).filter((rich) => rich.length > 0)
  const content = fc.sample(anyContent, 1)[0]!
  const pages = all.map((introduction) =>
    bodyOf(
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
    ),
  )
  await page.goto('about:blank')
  await page.addScriptTag({ content: await pageScript('preview-parts.ts', 'Preview') })
  const wrong = await page.evaluate(
    ([bodies, texts]) =>
      bodies.flatMap(({ body, html }, at) => {
        const parse = () => new DOMParser().parseFromString(html, 'text/html').body
        document.body.innerHTML = parse().innerHTML
        const place = document.querySelector<HTMLElement>('.askbox-introduction')
        if (place === null) return []
        /** Each stretch of letters with the elements that it stands in. */
        const lettersIn = (root: Element) => {
          const stretches: [format: string, letters: string][] = []
          const walker = document.createTreeWalker(root, NodeFilter.SHOW_TEXT)
          for (let text = walker.nextNode(); text !== null; text = walker.nextNode()) {
            const letters = text.textContent!.replace(/\s/g, '')
            const format: string[] = []
            for (let node = text.parentElement!; node !== root; node = node.parentElement!)
              format.unshift(`${node.localName} ${node.getAttribute('href') ?? ''}`)
            const last = stretches.at(-1)
            if (letters === '') continue
            if (last?.[0] === format.join()) last[1] += letters
            else stretches.push([format.join(), letters])
          }
          return JSON.stringify([stretches, root.querySelectorAll('p').length, root.querySelectorAll('li').length])
        }
        const rendered = lettersIn(place)
        place.setAttribute('data-held-by-editor', place.className)
        const editor = Preview.openEditor(place, 'rich', {
          text: texts[at]!,
          onWrite: () => {},
          onDone: () => {},
          onLink: () => {},
        })
        const written = lettersIn(place)
        Preview.morph(document.body, body)
        const held = document.querySelector('.askbox-introduction') === place && lettersIn(place) === written
        editor.close()
        return [
          ...(written === rendered ? [] : [`${at}: ${written} and not ${rendered}`]),
          ...(held ? [] : [`${at}: not left to its editor`]),
        ]
      }),
    [pages, all] as const,
  )
  expect(wrong).toEqual([])
})
