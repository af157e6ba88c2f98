import type { DefaultTreeAdapterTypes as Html } from 'parse5'
import { ancestorsOf, attribute, elementsBelow, type FormOnPage, textIn } from '#core/submission'
import { tidy } from './labels'

/** What pasted code has besides its form, in words: none of it is taken along. */
export function whatIsDropped({
  page,
  form,
  others,
  buttons,
  traps,
}: {
  page: Html.Document
  form: Html.Element
  others: readonly FormOnPage[]
  buttons: readonly Html.Element[]
  traps: readonly Html.Element[]
}): string[] {
  const all = elementsBelow(page)
  const dropped: string[] = []
  const count = (what: string, several: string, number: number) => {
    if (number > 0) dropped.push(number === 1 ? `1 ${what}` : `${number} ${several}`)
  }
  const scripts = all.filter(({ tagName }) => tagName === 'script')
  const hosts = [...new Set(scripts.flatMap((one) => hostOf(attribute(one, 'src'))))]
  if (scripts.length > 0)
    dropped.push(
      `${scripts.length === 1 ? '1 script' : `${scripts.length} scripts`}${hosts.length > 0 ? `, of ${hosts.join(', ')}` : ''}`,
    )
  count('style sheet', 'style sheets', all.filter(isStyleSheet).length)
  count('tracking picture', 'tracking pictures', all.filter(isTrackingPicture).length)
  count('frame', 'frames', all.filter(({ tagName }) => tagName === 'iframe').length)
  for (const { form: other } of others) dropped.push(`another form, to ${attribute(other, 'action') || 'its own page'}`)
  for (const button of buttons.slice(1))
    dropped.push(`a second button, “${tidy(textIn(button) || (attribute(button, 'value') ?? ''))}”`)
  count('more trap for programs', 'more traps for programs', Math.max(0, traps.length - 1))
  for (const link of all.filter((one) => one.tagName === 'a' && isCredit(one)))
    dropped.push(`the line “${tidy(textIn(link)) || 'credit'}”`)
  const handlers = [form, ...elementsBelow(form)]
    .flatMap(({ attrs }) => attrs)
    .filter(({ name }) => name.startsWith('on'))
  count('piece of script in an attribute', 'pieces of script in attributes', handlers.length)
  return dropped
}

const isStyleSheet = (one: Html.Element) =>
  one.tagName === 'style' || (one.tagName === 'link' && /stylesheet/i.test(attribute(one, 'rel') ?? ''))

function isTrackingPicture(one: Html.Element): boolean {
  if (one.tagName !== 'img') return false
  const size = [attribute(one, 'width'), attribute(one, 'height')]
  return (
    size.every((length) => length === '0' || length === '1') || /display:\s*none/i.test(attribute(one, 'style') ?? '')
  )
}

/** Lines that praise whoever made the form. Common practice, without a source. */
function isCredit(link: Html.Element): boolean {
  const around = ancestorsOf(link)[0]
  const text = `${textIn(link)} ${around === undefined ? '' : textIn(around)}`.toLowerCase()
  return /\b(powered by|made with|created with|built with|get your own)\b/.test(text)
}

function hostOf(address: string | null): string[] {
  try {
    return address === null
      ? []
      : [new URL(address, 'https://relative.invalid').host].filter((host) => host !== 'relative.invalid')
  } catch {
    return []
  }
}
