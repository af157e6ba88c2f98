import type { Answer, FormContent } from '#core/form'
import type { FormId, SpotId } from '#core/ids'
import { answerPage, element, type Node, previewPage, renderForm, type WayBack } from '#core/render'

/** Ids for a picture of a form that has no spot yet. */
const NO_SPOT = 'picture' as SpotId

/** The form alone, on transparent ground. */
export function formDocument(content: FormContent, form: FormId, padding = '0'): string {
  return previewPage([formNode(content, form)], padding)
}

/** The form in the text of some page: grey lines stand for what is around it. */
export function pageDocument(content: FormContent, form: FormId): string {
  const lines = (count: number): Node[] =>
    Array.from({ length: count }, (_, at) => element('div', { style: `height:12px;margin:0 0 14px;border-radius:6px;background:#d9d6cf;width:${at === count - 1 ? 62 : 100 - ((at * 7) % 9)}%` }))
  const title = element('div', { style: 'height:24px;width:55%;margin:0 0 22px;border-radius:6px;background:#b9b5ab' })
  return previewPage([title, ...lines(3), element('div', { style: 'margin:22px 0' }, formNode(content, form)), ...lines(3)], '24px')
}

export function answerDocument(answer: Answer, content: FormContent, wayBack: WayBack | null): string {
  return answerPage(answer, content.look, wayBack)
}

function formNode(content: FormContent, form: FormId): Node {
  return renderForm({ content, form, version: 1, spot: NO_SPOT, receiver: '' })
}
