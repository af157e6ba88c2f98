import type { Answer } from '#core/form'
import { type Look, plainLook } from '#core/look'
import { type FormState, type PlacedForm, renderForm } from './form'
import { element, type Node, toHtml } from './node'
import { interfaceTexts } from './texts'

/** Where a page of ours leads back to. */
export interface WayBack {
  name: string
  address: string
}

/** The page a visitor is sent to after pressing the button: the answer's own words in the form's look. */
export function answerPage(answer: Answer, look: Look, wayBack: WayBack | null): string {
  return page(answer.heading, look, [
    answer.heading !== '' && element('h1', {}, answer.heading),
    answer.message !== '' && element('p', {}, answer.message),
    wayBackNode(wayBack),
  ])
}

/** The form shown again after an answer that could not be taken: values kept, each error beside its field. */
export function formAgainPage(placed: PlacedForm, state: FormState, wayBack: WayBack | null): string {
  const count = Object.keys(state.errors).length
  const title = count === 1 ? interfaceTexts.checkAgain : interfaceTexts.checkAgainSeveral
  return page(title, placed.content.look, [
    // One error stands beside its field and is not said twice; several are listed first.
    element('div', { role: 'alert' }, element('h1', {}, title), count > 1 && element('ul', {}, ...Object.values(state.errors).map((error) => element('li', {}, error)))),
    renderForm(placed, state),
    wayBackNode(wayBack),
  ])
}

/** A plain page that says one thing: what happened, and what to do. For visitors who met a dead end. */
export function noticePage(title: string, message: string): string {
  return page(title, plainLook, [element('h1', {}, title), element('p', {}, message)])
}

/** A bare page around a form for the workshop's pictures: the surroundings are the site's, here as quiet as can be. */
export function previewPage(body: Node[], padding: string): string {
  return documentOf('Preview', `html{overflow:hidden}body{margin:0;padding:${padding};background:transparent;font:16px/1.6 system-ui,sans-serif;color:#222}form.askbox{margin:0!important}`, body)
}

function wayBackNode(wayBack: WayBack | null): Node | false {
  return wayBack !== null && element('p', { class: 'back' }, element('a', { href: wayBack.address }, interfaceTexts.backTo(wayBack.name)))
}

function page(title: string, look: Look, body: (Node | false)[]): string {
  const { background, text } = look.colours
  return documentOf(
    title,
    [
      `body{margin:0;min-height:100vh;display:grid;place-content:center;background:${background};color:${text};font:1.0625rem/1.6 system-ui,sans-serif}`,
      'main{box-sizing:border-box;width:min(40rem,100vw);padding:2rem 1.5rem;overflow-wrap:anywhere}',
      'h1{margin:0 0 .5rem;font-size:1.75rem;line-height:1.2;text-wrap:balance}',
      'p{margin:0 0 1rem;white-space:pre-line}',
      'a{color:inherit}',
      '.back{margin-top:2rem}',
      ':focus-visible{outline:3px solid;outline-offset:2px}',
      'form.askbox{padding:0!important}',
    ].join('\n'),
    [element('main', {}, ...body.filter((node): node is Node => node !== false))],
  )
}

function documentOf(title: string, css: string, body: Node[]): string {
  return `<!DOCTYPE html>\n${toHtml(
    element(
      'html',
      { lang: 'en' },
      element(
        'head',
        {},
        element('meta', { charset: 'utf-8' }),
        element('meta', { name: 'viewport', content: 'width=device-width, initial-scale=1' }),
        element('meta', { name: 'robots', content: 'noindex' }),
        element('title', {}, title || 'Sign up'),
        element('style', {}, css),
      ),
      element('body', {}, ...body),
    ),
  )}\n`
}
