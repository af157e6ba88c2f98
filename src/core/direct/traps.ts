import type { DefaultTreeAdapterTypes as Html } from 'parse5'
import { ancestorsOf, attribute, typeOf } from '#core/submission'

/** Ways of moving something out of sight by a style attribute. Common practice, without a source. */
const OUT_OF_SIGHT =
  /display:none|visibility:hidden|opacity:0(?:[;.]0|$|;)|(?:left|top|right|bottom|text-indent|margin-left):-\d{3,}|(?:^|;)(?:height|width|max-height):0(?:px)?(?:;|$)|clip:rect\(0/

/** Whether a control is there for programs only: visible to nobody, and yet no hidden field. */
export function isTrap(control: Html.Element): boolean {
  if (control.tagName !== 'input' || !['text', 'email', 'url', 'tel', 'search', 'checkbox'].includes(typeOf(control)))
    return false
  const name = attribute(control, 'name') ?? ''
  if (/honey|trap|leave[-_ ]?(?:this|blank|empty)/i.test(name) && !/^e?mail/i.test(name)) return true
  const around = [control, ...ancestorsOf(control).filter(({ tagName }) => !['form', 'body', 'html'].includes(tagName))]
  return around.some(
    (one) =>
      attribute(one, 'hidden') !== null ||
      attribute(one, 'aria-hidden') === 'true' ||
      OUT_OF_SIGHT.test((attribute(one, 'style') ?? '').toLowerCase().replaceAll(/\s+/g, '')),
  )
}
