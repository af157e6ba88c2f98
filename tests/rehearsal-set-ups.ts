import { frameAddress, frameCode, linkCode, pageAddress, placePart, sharedLine } from '#core/embed'
import { honeypotName } from '#core/form'
import type { Proof } from '#core/proof'
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
  /** With which headers the page comes. */
  headers?: Record<string, string>
  /** What of a rehearsal finds it; missing for the first visit, the phone and scripts off. */
  cases?: Proof['cases']
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
    'a frame under a notice of the page that can be closed': [
      () =>
        page(
          `${frame()}<div id="note" style="position:fixed;inset:0;background:#fffc"><p>Cookies?</p><button onclick="note.remove()">No</button></div>`,
        ),
      { code: 'frame' },
      true,
    ],
    'a frame in a fold without words of its own': [
      () => page(`<details>${frame()}</details>`),
      { code: 'frame' },
      true,
    ],
    'a form in a fold within a fold': [
      () =>
        page(
          `<details><summary>More</summary><p>Words</p><details><summary>Letters</summary>${plain()}</details></details>`,
        ),
      {},
    ],
    'a frame in a closed fold': [
      () =>
        page(
          `<button aria-controls="fold" onclick="fold.style.display='block'">Letters</button><div id="fold" style="display:none">${frame()}</div>`,
        ),
      { code: 'frame' },
      true,
    ],
    // What people open, wait for, or move to.
    'behind words that can be pressed': [
      () =>
        page(
          `<span style="cursor:pointer" onclick="fold.style.display='block'">Newsletter</span><div id="fold" style="display:none">${plain()}</div>`,
        ),
      {},
      true,
    ],
    'in a dialog': [
      () => page(`<button onclick="box.showModal()">Join the list</button><dialog id="box">${plain()}</dialog>`),
      {},
      true,
    ],
    'in a popover': [
      () => page(`<button popovertarget="box">Letters</button><div id="box" popover>${plain()}</div>`),
      {},
    ],
    'on the third slide': [
      () =>
        page(
          `<div class="slides"><div>One</div><div hidden>Two</div><div hidden>${plain()}</div></div><button aria-label="Next">→</button><script>
          let at = 0; document.querySelector('[aria-label=Next]').onclick = () => { const all = document.querySelectorAll('.slides > div'); all[at].hidden = true; at = (at + 1) % 3; all[at].hidden = false }</script>`,
        ),
      {},
      true,
    ],
    'that comes when one scrolls to it': [
      () =>
        page(
          `<div style="height:3000px">Long</div><div id="place" style="min-height:40px"></div><script>new IntersectionObserver(([one]) => { if (one.isIntersecting && !place.firstChild) place.innerHTML = decodeURIComponent("${encodeURIComponent(plain())}") }).observe(place)</script>`,
        ),
      {},
      true,
    ],
    'behind a curtain that goes after three seconds': [
      () =>
        page(
          `${plain()}<div id="curtain" style="position:fixed;inset:0;background:#fff"></div><script>setTimeout(() => curtain.remove(), 3000)</script>`,
        ),
      {},
      true,
    ],
    'far down a page that moves itself smoothly': [
      () =>
        page(
          `<div style="height:2600px">Long</div>${plain()}<script>addEventListener('wheel', (event) => { event.preventDefault(); scrollBy({ top: event.deltaY, behavior: 'smooth' }) }, { passive: false })</script>`,
        ),
      {},
    ],
    'whose button pulses on a ground that moves': [
      () =>
        page(
          `<div class="in">${plain()}</div>`,
          '<style>@keyframes pulse { 50% { filter: brightness(1.6) } } @keyframes go { to { background-position: 400px 0 } } .in button { animation: pulse 1s infinite } .in { background: repeating-linear-gradient(90deg, #fff 0 40px, #eef 40px 80px); animation: go 3s linear infinite }</style>',
        ),
      {},
    ],
    'with pale fields': [
      () =>
        page(
          `<div id="pale">${plain()}</div>`,
          '<style>#pale#pale#pale input { border: 1px solid #eee !important; background: #fff !important; box-shadow: none !important }</style>',
        ),
      {},
    ],
    'opened by a box that is ticked': [
      () =>
        page(
          `<input type="checkbox" id="tick" style="position:absolute;opacity:0"><label for="tick">Letters by mail</label><div class="fold">${plain()}</div>`,
          '<style>.fold { display: none } #tick:checked ~ .fold { display: block }</style>',
        ),
      {},
    ],
    'in a row that is moved sideways': [
      () =>
        page(
          `<div style="width:320px;overflow-x:auto;display:flex"><div style="flex:0 0 900px">Wide</div><div style="flex:0 0 300px">${plain()}</div></div>`,
        ),
      {},
    ],
    'with a picture that never comes': [
      () => page(`<img src="/never.png" width="40" height="40" alt="">${plain()}`),
      {},
    ],
  }
  const later = (act: string) => page(plain(), `<script>addEventListener('load', () => { ${act} })</script>`)
  const form = `document.querySelector('form.askbox')`
  const styled = (css: string, body: string) => page(body, `<style>${css}</style>`)
  const within = (css: string, head = '') => page(`<div id="in">${plain()}</div>`, `<style>${css}</style>${head}`)
  const broken: Record<
    string,
    [found: string, html: () => string, spot?: Partial<Spot>, cases?: Proof['cases'], isUsable?: true]
  > = {
    // What a picture shows, and styles and presses do not.
    'under a white curtain that lets presses through': [
      'spot: hidden',
      () => page(`${plain()}<div style="position:fixed;inset:0;background:#fff;pointer-events:none"></div>`),
    ],
    'white on white': [
      'spot: hidden',
      () =>
        within(
          '#in#in#in *, #in#in#in *::placeholder { color: #fff !important; background: #fff !important; border-color: #fff !important; box-shadow: none !important; outline: 0 !important; accent-color: #fff }',
        ),
    ],
    blurred: ['spot: faint', () => within('#in { filter: blur(5px) }')],
    'under a film of milk': [
      'spot: faint',
      () => page(`${plain()}<div style="position:fixed;inset:0;background:#ffffffee;pointer-events:none"></div>`),
    ],
    // What only a program can move.
    'in a slider that nobody can move': [
      'spot: hidden',
      () =>
        page(
          `<div style="width:300px;overflow:hidden"><div style="width:1500px;display:flex"><div style="width:700px">One</div><div>${plain()}</div></div></div>`,
        ),
    ],
    'on a page that does not move': [
      'spot: hidden',
      () =>
        page(
          `<div style="height:3000px">Long</div>${plain()}`,
          '<style>html, body { height: 100%; overflow: hidden; margin: 0 }</style>',
        ),
    ],
    // What only some meet, or who takes her time.
    'taken away while one types': [
      'spot: hidden',
      () => later(`setTimeout(() => ${form}.remove(), 9000)`),
      {},
      ['slow'],
      true,
    ],
    'on a page that loads itself anew': [
      'spot: page-left',
      () => later(`setTimeout(() => location.reload(), 6000)`),
      {},
      ['slow'],
      true,
    ],
    'shown on the first visit alone': [
      'spot: form-unseen',
      () => later(`if (localStorage.seen) ${form}.remove(); localStorage.seen = 1`),
      {},
      ['slow'],
      true,
    ],
    'hidden on tablets': [
      'spot: hidden-at-widths',
      () => within('@media (min-width: 601px) and (max-width: 1100px) { #in { display: none } }'),
      {},
      ['viewers'],
      true,
    ],
    'black on black in the dark': [
      'spot: hidden',
      () => within('@media (prefers-color-scheme: dark) { body { background: #000 } #in { filter: brightness(0) } }'),
      {},
      ['viewers'],
      true,
    ],
    'faded in by motion alone': [
      'spot: hidden',
      () => within('@media (prefers-reduced-motion: reduce) { #in { opacity: 0 } }'),
      {},
      ['viewers'],
      true,
    ],
    'taken away in another language': [
      'spot: form-unseen',
      () => later(`if (navigator.language.startsWith('fr')) ${form}.remove()`),
      {},
      ['viewers'],
      true,
    ],
    'answered by the theme': [
      'form: submit-stopped',
      () =>
        later(
          `addEventListener('submit', (event) => { event.preventDefault(); event.target.insertAdjacentHTML('afterend', '<p>Thank you for joining!</p>') }, true)`,
        ),
    ],
    'that leads phones to another address': [
      'spot: page-left',
      () => page(plain(), `<script>if (screen.width < 600) location.replace('/mobile')</script>`),
      {},
      ['phone'],
      true,
    ],
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
      'spot: covered',
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
  const guarded = { 'Cross-Origin-Embedder-Policy': 'require-corp' }
  return {
    sound: [
      ...Object.entries(sound).map(([name, [html, spot, needsScripts = false]]) => ({
        name,
        html: html(),
        spot,
        found: 'passed',
        isUsable: true,
        needsScripts,
      })),
      ...[
        {
          name: 'a frame on a page that asks for leave to embed',
          html: page(frame()),
          spot: { code: 'frame' as const },
        },
        { name: 'a script on such a page', html: page(script(), line()), spot: { code: 'script' as const } },
      ].map((one) => ({ ...one, headers: guarded, found: 'passed', isUsable: true, needsScripts: false })),
      ...[
        ['takes the form from programs', `document.querySelector('form').remove()`],
        ['asks programs for proof', `document.body.innerHTML = '<p>Checking your browser …</p>'`],
        ['lets programs send nothing', `document.querySelector('form').onsubmit = () => false`],
      ].map(([name, act]) => ({
        name: `a page that ${name}`,
        html: page(
          plain(),
          `<script>addEventListener('DOMContentLoaded', () => { if (navigator.webdriver) { ${act} } })</script>`,
        ),
        spot: {},
        found: 'passed but first',
        // Of a browser that a program drives.
        isUsable: false,
        needsScripts: false,
        cases: ['first', 'scripts-off'] as Proof['cases'],
      })),
    ],
    broken: Object.entries(broken).map(([name, [found, html, spot = {}, cases, isUsable = usable.has(name)]]) => ({
      name,
      html: html(),
      spot,
      found,
      isUsable,
      needsScripts: false,
      ...(cases !== undefined && { cases }),
    })),
  }
}
