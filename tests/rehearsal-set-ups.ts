import { frameAddress, frameCode, linkCode, pageAddress, placePart, sharedLine } from '#core/embed'
import { honeypotName } from '#core/form'
import type { Spot } from '#core/spot'
import { type Ground, page } from './rehearsal-ground'
import * as samples from './tables/samples'

/*
 * Pages with a spot's code for rehearsals with a browser: sound ones, and such on which nobody can sign up, for reasons that
 * markup alone does not show.
 */
export interface SetUp {
  name: string
  html: string
  spot: Partial<Spot>
  /** How its rehearsal has to end: with “passed”, or the station and the cause. */
  found: string
  /** Whether a visitor at a desk can sign up there all the same. */
  isUsable: boolean
  needsScripts: boolean
}

export function setUpsOn(ground: Pick<Ground, 'plain' | 'settings'>): { sound: SetUp[]; broken: SetUp[] } {
  const id = samples.spot.id
  const plain = () => ground.plain()
  const script = () => placePart(samples.content, ground.settings.publicUrl, id, null)
  const line = () => sharedLine(ground.settings.publicUrl)
  const frame = () => frameCode(frameAddress(ground.settings.publicUrl, id), 'Sign up', { width: 480, height: 320 })
  const link = () =>
    linkCode(samples.content, pageAddress(ground.settings.publicUrl, id), { shownAs: 'button', opens: 'here' })

  const sound: Record<string, [html: () => string, spot: Partial<Spot>, needsScripts?: true]> = {
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
  const later = (act: string) => page(plain(), `<script>addEventListener('load', () => { ${act} })</script>`)
  const form = `document.querySelector('form.askbox')`
  const styled = (css: string, body: string) => page(body, `<style>${css}</style>`)
  const broken: Record<string, [found: string, html: () => string, spot?: Partial<Spot>]> = {
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
  /** A trap that she does not fill in, and what only phones do not show. */
  const usable = new Set(['the trap shown by a script', 'hidden on phones by a script'])
  return {
    sound: Object.entries(sound).map(([name, [html, spot, needsScripts = false]]) => ({
      name,
      html: html(),
      spot,
      found: 'passed',
      isUsable: true,
      needsScripts,
    })),
    broken: Object.entries(broken).map(([name, [found, html, spot = {}]]) => ({
      name,
      html: html(),
      spot,
      found,
      isUsable: usable.has(name),
      needsScripts: false,
    })),
  }
}
