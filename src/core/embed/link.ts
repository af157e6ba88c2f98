import type { FormContent } from '#core/form'
import type { SpotId } from '#core/ids'
import { plainText } from '#core/text'
import { element, toHtml } from '#core/render'

/** Where a spot's form is a page of its own, by its id or by the readable end of its address. */
export function pageAddress(receiver: string, spot: string): string {
  return `${receiver}/page/${spot}`
}

/** Where a spot's form stands alone, for a frame. */
export function frameAddress(receiver: string, spot: SpotId): string {
  return `${receiver}/frame/${spot}`
}

export interface LinkLook {
  /** As words in a text, or as a button in the form's colours. */
  shownAs: 'words' | 'button'
  opens: 'here' | 'new-window'
}

/** What a link to a form says. */
export function wordsOf({ words }: Pick<FormContent, 'words'>): string {
  return words.heading || plainText(words.introduction) || words.button
}

/** A link to a spot's page, in the form's own words. Ends with a line break. */
export function linkCode(
  { words, look, language }: FormContent,
  address: string,
  { shownAs, opens }: LinkLook,
): string {
  const { button, buttonText } = look.colours
  const html = toHtml(
    element(
      'a',
      {
        href: address,
        hreflang: language,
        ...(opens === 'new-window' && { target: '_blank', rel: 'noopener' }),
        ...(shownAs === 'button' && {
          style: `display:inline-block;padding:.6em 1.25em;border-radius:${look.button.corner}px;background:${button};color:${buttonText};text-decoration:none`,
        }),
      },
      shownAs === 'button' ? words.button : wordsOf({ words }),
    ),
  )
  const said = `<!-- These words may be changed by hand${shownAs === 'button' ? ', and the two colours' : ''}. -->`
  // Within the link, where it moves nothing of the text around it.
  return `${html.replace('>', () => `>${said}`)}\n`
}
