import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { frameAddress, frameCode, linkCode, pageAddress, placePart, sharedLine } from '#core/embed'
import { honeypotName } from '#core/form'
import type { Proof } from '#core/proof'
import type { Spot } from '#core/spot'
import { builtScripts, type Ground, openGround, page } from '../../../tests/rehearsal-ground'
import * as samples from '../../../tests/tables/samples'
import { Browsers } from '../browser'

/*
 * Rehearsals with the browser that is installed here (Debian's packages): whatever keeps a visitor from signing up on a
 * page as it stands is found, and a sound page passes. What is damaged here, markup alone does not show.
 */

let ground: Ground
beforeAll(async () => {
  ground = await openGround((settings) => new Browsers(settings))
  if (!existsSync(join(builtScripts, 'askbox.js'))) throw new Error('Build the visitors’ script first: npm run build.')
})
afterAll(() => ground.close())

const id = samples.spot.id
const plain = () => ground.plain()
const script = () => placePart(samples.content, ground.settings.publicUrl, id, null)
const line = () => sharedLine(ground.settings.publicUrl)
const frame = () => frameCode(frameAddress(ground.settings.publicUrl, id), 'Sign up', { width: 480, height: 320 })
const link = () =>
  linkCode(samples.content, pageAddress(ground.settings.publicUrl, id), { shownAs: 'button', opens: 'here' })

const outcomeOf = ({ steps, verdict }: Proof) => {
  const failed = steps.find((step) => step.verdict === 'failed')
  if (failed !== undefined) return `${failed.station}: ${failed.failure!.code}`
  const untried = steps.filter((step) => step.verdict === 'not-tried').map((step) => step.case)
  return untried.length === 0 ? verdict : `${verdict} but ${untried.join(', ')}`
}
const VISITS: Proof['cases'] = ['first', 'scripts-off', 'phone']

/** Each page at an address of its own, two at a time: how its rehearsal ends, by name. */
async function rehearsed(pages: { name: string; html: string; spot: Partial<Spot>; cases?: Proof['cases'] }[]) {
  ground.answers((request, response) => {
    const html = pages[Number(/^\/page-(\d+)$/.exec(request.url ?? '')?.[1] ?? NaN)]?.html
    if (request.url === '/never.png') return
    response.writeHead(html === undefined ? 404 : 200, { 'Content-Type': 'text/html; charset=utf-8' }).end(html)
  })
  const outcomes: Record<string, string> = {}
  let next = 0
  const work = async () => {
    while (next < pages.length) {
      const at = next++
      const { name, spot, cases = VISITS } = pages[at]!
      const subject = ground.subject({}, { page: `${ground.siteAddress}/page-${at}`, ...spot })
      outcomes[name] = outcomeOf(await ground.proofOf(subject, cases))
    }
  }
  await Promise.all([work(), work()])
  return outcomes
}

describe('a sound page passes, with nothing left untried', () => {
  const pages: Record<string, [html: () => string, spot: Partial<Spot>, needsScripts?: true]> = {
    plain: [() => page(plain()), {}],
    'plain, made better by the script': [() => page(plain(), line()), {}],
    script: [() => page(script(), line()), { code: 'script' }],
    frame: [() => page(frame()), { code: 'frame' }],
    link: [() => page(link()), { code: 'link' }],
    'landing page': [() => '', { kind: 'landing' }],
    'in a closed details': [() => page(`<details><summary>Letters</summary>${plain()}</details>`), {}],
    'in a closed accordion': [
      () =>
        page(
          `<button aria-controls="fold" aria-expanded="false" onclick="fold.style.height='auto';this.setAttribute('aria-expanded','true')">Letters</button><div id="fold" style="height:0;overflow:hidden">${plain()}</div>`,
        ),
      {},
      true,
    ],
    'under a notice that can be closed': [
      () =>
        page(
          `${plain()}<div id="note" style="position:fixed;inset:0;background:#fffc"><p>Cookies?</p><button onclick="note.remove()">No</button></div>`,
        ),
      {},
      true,
    ],
    'brought in by a script of the page': [
      () =>
        page(
          `<div id="place"></div><script>place.innerHTML = decodeURIComponent("${encodeURIComponent(plain())}")</script>`,
        ),
      {},
      true,
    ],
    'its line brought in by a script of the page': [
      () =>
        page(
          `${script()}<script>const s = document.createElement('script'); s.src = '${ground.settings.publicUrl}/askbox.js'; document.head.append(s)</script>`,
        ),
      { code: 'script' },
    ],
    'with a picture that never comes': [
      () => page(`<img src="/never.png" width="40" height="40" alt="">${plain()}`),
      {},
    ],
  }
  test('all of them', async () => {
    const outcomes = await rehearsed(
      Object.entries(pages).map(([name, [html, spot]], at) => ({
        name,
        html: html(),
        spot,
        // Each kind of code on a phone, too.
        cases: at < 6 ? VISITS : at < 10 ? ['first' as const, 'scripts-off' as const] : ['first' as const],
      })),
    )
    // Only what cannot be: without scripts, what a page's scripts make is not there.
    const expected = Object.entries(pages).map(([name, [, , needsScripts]], at) => [
      name,
      needsScripts && at < 10 ? 'passed but scripts-off' : 'passed',
    ])
    expect(outcomes).toEqual(Object.fromEntries(expected))
  }, 300_000)
})

describe('each page on which nobody can sign up fails, with its cause', () => {
  const later = (act: string) => page(plain(), `<script>addEventListener('load', () => { ${act} })</script>`)
  const form = `document.querySelector('form.askbox')`
  const styled = (css: string, body: string) => page(body, `<style>${css}</style>`)
  const pages: Record<string, [found: string, html: () => string, spot?: Partial<Spot>]> = {
    'a theme that stops every form': [
      'form: submit-stopped',
      () => later(`addEventListener('submit', (event) => event.preventDefault(), true)`),
    ],
    'a form taken away by a script': ['spot: form-unseen', () => later(`${form}.remove()`)],
    'an accordion that nothing opens': [
      'spot: hidden',
      () => page(`<div style="height:0;overflow:hidden">${plain()}</div>`),
    ],
    'cut off': ['spot: hidden', () => page(`<div style="clip-path:inset(50%);position:absolute">${plain()}</div>`)],
    'outside of the page': ['spot: hidden', () => page(`<div style="position:absolute;left:-9999px">${plain()}</div>`)],
    'faded out': ['spot: hidden', () => styled('.in { opacity: 0 }', `<div class="in">${plain()}</div>`)],
    'something lies over it': [
      'spot: covered',
      () => page(`<div style="position:relative">${plain()}<div style="position:absolute;inset:0"></div></div>`),
    ],
    'that takes no presses': [
      'spot: hidden',
      () => styled('.off { pointer-events: none }', `<div class="off">${plain()}</div>`),
    ],
    'fields that a script locks': [
      'form: field-locked',
      () => later(`${form}.querySelector('[name=email]').readOnly = true`),
    ],
    'a field that a script empties': [
      'form: field-locked',
      () =>
        later(
          `${form}.querySelector('[name=email]').addEventListener('input', (event) => { event.target.value = '' })`,
        ),
    ],
    'a field made short': ['form: field-locked', () => later(`${form}.querySelector('[name=email]').maxLength = 10`)],
    'a button that a script switches off': [
      'form: button-disabled',
      () => later(`${form}.querySelector('.askbox-button').disabled = true`),
    ],
    'a button that a script makes a plain one': [
      'form: no-button',
      () => later(`${form}.querySelector('.askbox-button').type = 'button'`),
    ],
    'a press that a script swallows': [
      'form: submit-stopped',
      () => later(`addEventListener('click', (event) => event.target.closest('form') && event.preventDefault(), true)`),
    ],
    'a required field that a script adds': [
      'form: foreign-required',
      () =>
        later(`${form}.noValidate = false; for (const b of ${form}.querySelectorAll('button')) b.formNoValidate = false;
          ${form}.insertAdjacentHTML('beforeend', '<input name="code" required style="position:absolute;opacity:0">')`),
    ],
    'sent to somewhere else by a script': [
      'form: sent-elsewhere',
      () =>
        later(
          `addEventListener('submit', (event) => { event.target.action = '/search'; for (const b of event.target.querySelectorAll('button')) b.removeAttribute('formaction') }, true)`,
        ),
    ],
    'the trap shown by a script': [
      'form: trap-visible',
      () =>
        later(
          `const trap = ${form}.querySelector('[name="${honeypotName(samples.form.id)}"]'); for (let at = trap; at !== ${form}; at = at.parentElement) at.inert = false, at.style.cssText = 'position:static!important;display:block!important;width:auto!important;height:auto!important;clip:auto!important;clip-path:none!important;left:0!important;opacity:1!important;visibility:visible!important'`,
        ),
    ],
    'an answer into a frame that a script made': [
      'answer: answer-unseen',
      () =>
        later(
          `document.body.insertAdjacentHTML('beforeend', '<iframe name="q" style="display:none"></iframe>'); ${form}.target = 'q'`,
        ),
    ],
    'hidden on phones by a script': [
      'spot: hidden',
      () =>
        later(`if (innerWidth < 600) ${form}.style.display = 'none'`).replace(
          '<head>',
          '<head><meta name="viewport" content="width=device-width">',
        ),
    ],
    'a frame that a script makes flat': [
      'spot: hidden',
      () =>
        page(
          frame(),
          `<script>addEventListener('load', () => { document.querySelector('iframe').style.height = '0' })</script>`,
        ),
      { code: 'frame' },
    ],
  }
  test('all of them', async () => {
    const outcomes = await rehearsed(
      Object.entries(pages).map(([name, [, html, spot = {}]]) => ({ name, html: html(), spot })),
    )
    expect(outcomes).toEqual(Object.fromEntries(Object.entries(pages).map(([name, [found]]) => [name, found])))
  }, 300_000)
})
