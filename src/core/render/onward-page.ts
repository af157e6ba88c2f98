import { shortAddress } from '#core/form'
import { answerTextsOf, filledIn } from '#core/texts'
import { type AnswerSign, SIGN_STYLES } from './answer-page'
import type { Page } from './document'
import { element } from './node'
import { frameScript, type FrameTells, page, type PageContent, pressStyles } from './page'

/**
 * The step of ours from which somebody goes on to a page of the owner's: at once, and by a link that says where to. In a
 * frame nothing goes on by itself, which would show a site within itself: there the link leads out of the frame, as far as
 * the page around it lets it.
 *
 * @param said what happened, read where one does not go on at once
 */
export function onwardPage(
  address: string,
  said: { heading: string; message: string },
  content: PageContent,
  {
    sign = null,
    isInFrame = false,
    tells = null,
    receiver = '',
  }: { sign?: AnswerSign | null; isInFrame?: boolean; tells?: FrameTells | null; receiver?: string } = {},
): Page {
  const words = filledIn(answerTextsOf(content.language).goOn, { place: shortAddress(address) })
  return page({
    title: said.heading || words,
    content,
    styles: [sign === null ? '' : SIGN_STYLES, pressStyles(content)].join('\n'),
    // HTML, shared declarative refresh steps: the page before is what "Back" leads to.
    head: [!isInFrame && element('meta', { 'http-equiv': 'refresh', content: `0;url=${address}` })],
    body: [
      sign !== null && element('div', { class: `sign ${sign}`, 'aria-hidden': 'true' }),
      said.heading !== '' && element('h1', {}, said.heading),
      said.message !== '' && element('p', {}, said.message),
      element(
        'p',
        { class: 'gift' },
        element('a', { href: address, ...(isInFrame && { target: '_blank', class: 'askbox-onward' }) }, words),
      ),
      // What a sandboxed frame lets out is known only by trying.
      isInFrame && element('script', { type: 'module', src: `${receiver}/onward.js` }),
      tells !== null && frameScript(tells),
    ],
  })
}
