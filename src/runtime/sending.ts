import type { Answer, AnswerCase } from '#core/form'
import type { FormSettings } from '#core/render'
import type * as AgainModule from './again'
import { fetched, PATIENCE_MS } from './fetched'
import { element, keepRoom } from './nodes'
import type * as OnwardModule from './onward'
import type * as PuzzleModule from './puzzle'
import type * as SpellingModule from './spelling'

/*
 * Sends a form and shows what comes of it in its place. Fetched by the visitors' script when somebody begins to fill a
 * form in.
 */

/** What the receiver answers: how it went, or what is wrong, or what is to be solved first. */
interface Body {
  outcome?: AnswerCase
  /** What the contract names no outcome of its own for. */
  case?: AnswerCase
  /** The owner's page to go to. */
  address?: string
  /** Names who just signed up, for sending the mail again. */
  again?: string
  /** Names who just signed up with an address that looks like a slip: for half an hour, another may take its place. */
  instead?: string
  /** The mail was held back; `address` is where that is said. */
  held?: boolean
  /** Handed over with the answer. */
  gift?: { address: string; words: string }
  /** Why nothing was taken, for whoever reads it. */
  detail?: string
  errors?: { field: string; message: string }[]
  puzzle?: Parameters<typeof PuzzleModule.solve>[0]
}

/** What moves so soon after a press is seen as done by it: Layout Instability, `hadRecentInput`. */
const PRESS_MS = 500

/** A form whose answers were checked, with what goes along. */
export interface SentForm {
  form: HTMLFormElement
  settings: FormSettings
  /** Address that the receiver's paths are put behind. */
  base: string
  spot: string
  /** What the form stands in. */
  card: HTMLElement
  button: HTMLButtonElement
  /** When it was shown, and when it was sent, in milliseconds since 1970. */
  begun: number
  pressedAt: number
  isInPlace: boolean
  onJoined(): void
  values(): Record<string, string>
  /** Shows what is wrong beside the fields. */
  report(wrong: { field: string; message: string }[]): void
}

/** Sends it; resolves with whether it was answered for good: else it can be pressed again, as on coming back to the page. */
export async function send(sent: SentForm): Promise<boolean> {
  const { form, settings, base, report } = sent
  const { fields, texts } = settings
  const policy = watchPolicy()
  try {
    if (!navigator.onLine && !(await backOnline(sent))) return false
    // The form stays open meanwhile: what is answered is what was sent.
    const values = sent.values()
    let [response, body] = await post(sent, values)
    if (body.puzzle) {
      const solved = await (await fetched<typeof PuzzleModule>(base, 'puzzle'))?.solve(body.puzzle)
      // What cannot be solved here is solved on a page of the receiver's.
      if (!solved) return sendAsPage(form)
      ;[response, body] = await post(sent, { ...values, 'askbox-puzzle': solved })
    }
    if (response.ok && body.outcome) {
      return answer(sent, values, body)
    }
    const fieldErrors = (body.errors ?? []).filter(({ field }) => fields.some(({ key }) => key === field))
    report(fieldErrors)
    if (fieldErrors.length === 0) return refused(sent, response.status, body)
  } catch {
    // Nothing typed is lost: it is sent again at the next press, or by the browser itself where scripts may not send.
    if (!navigator.onLine) return send(sent)
    if (await policy.forbids()) {
      console.warn('connect-src: sent as a page.')
      return sendAsPage(form)
    }
    tell(sent, texts.notSent)
  }
  return false
}

/** Nothing was taken: for now, in the owner's words where there are any; else of a form that is closed. */
function refused(sent: SentForm, status: number, { detail }: Body): false {
  const { texts, answers } = sent.settings
  const said = answers['not-possible']
  const isForNow = status === 429 || status >= 500
  if (isForNow && said?.show === 'address' && isWeb(said.address) && parent === window) location.assign(said.address)
  const words = isForNow && said ? [said.heading, said.message].filter(Boolean).join(' ') : ''
  tell(sent, (status === 410 && detail) || words || texts.notSent)
  return false
}

const isWeb = (address: string) => /^https?:\/\//.test(address.trim())

/** Answered by another page. */
const sentForms = new WeakSet<HTMLFormElement>()

/** Whoever comes back to the page finds the form as new: what was sent is not sent twice. Resolves on coming back. */
function comeBackTo({ form }: SentForm): Promise<unknown> {
  sentForms.add(form)
  form.reset()
  return new Promise((resolve) => addEventListener('pageshow', resolve)).then(() => sentForms.delete(form))
}

/**
 * On to a page of the owner's; in a frame that lets nobody out, there is a link that says where to.
 *
 * @returns whether the whole page goes on
 */
async function goOn(sent: SentForm, address: string, said: Pick<Answer, 'heading' | 'message'>): Promise<boolean> {
  const { base, settings } = sent
  if (parent === window) {
    location.assign(address)
    return true
  }
  const onward = await fetched<typeof OnwardModule>(base, 'onward')
  if (onward?.leave(address)) return true
  const result = show(sent, said)
  const { host } = new URL(address)
  const link = linkTo(
    address,
    settings.onward!.replace('{place}', () => host.replace(/^www\./, '')),
  )
  link.classList.add('askbox-onward')
  onward?.lead(link)
  result.append(link)
  result.focus()
  return false
}

function linkTo(address: string, words: string): HTMLAnchorElement {
  const link = element('a', { href: address, class: 'askbox-button' }, words) as HTMLAnchorElement
  if (parent !== window) link.target = '_blank'
  link.style.cssText = 'display:inline-block;box-sizing:border-box;text-decoration:none;text-align:center'
  return link
}

/** What is written into a form: letters that are left are counted, and all of it is kept for when the page comes back. */
export function begin(form: HTMLFormElement, spot: string, values: () => Record<string, string>): void {
  keepTyped(form, spot, values)
  for (const box of form.querySelectorAll<HTMLTextAreaElement>('textarea[data-askbox-left]')) countLetters(box)
}

/** So many letters before the end, a box tells how many are left. */
const NEAR_THE_END = 500

function countLetters(box: HTMLTextAreaElement): void {
  const shown = element('span', { class: 'askbox-left', 'aria-hidden': 'true' })
  // Said aloud now and then, not at every letter.
  const said = element('span', { class: 'askbox-said', role: 'status' })
  said.style.cssText = 'position:absolute;width:1px;height:1px;overflow:hidden;clip-path:inset(50%)'
  const count = () => {
    const left = box.maxLength - box.value.length
    const words = left > NEAR_THE_END ? '' : box.dataset.askboxLeft!.replace('{left}', `${left}`)
    if (words === '' || left % 100 === 0 || said.textContent === '') said.textContent = words
    shown.textContent = words
  }
  // Not within the label, whose words it would become.
  ;(box.closest('label') ?? box).after(shown, said)
  box.addEventListener('input', count)
  count()
}

/** What was typed is kept for when the page is loaded anew or come back to: see `restore.ts`. */
function keepTyped(form: HTMLFormElement, spot: string, values: () => Record<string, string>): void {
  addEventListener('pagehide', () => {
    try {
      if (!sentForms.has(form) && form.querySelector('.askbox-button'))
        sessionStorage[`askbox-typed-${spot}`] = JSON.stringify(values())
    } catch {
      // Where storage is blocked, nothing is kept.
    }
  })
}

function sendAsPage(form: HTMLFormElement): true {
  HTMLFormElement.prototype.submit.call(form)
  return true
}

/** Says that there is no net, and waits for it, or for whoever would rather not wait: false for these. */
function backOnline(sent: SentForm): Promise<boolean> {
  const { texts } = sent.settings
  return new Promise((resolve) => {
    const trouble = tell(sent, `${texts.offline} `)
    const stop = element('button', { type: 'button', class: 'askbox-stop' }, texts.doNotSend)
    stop.style.cssText = 'padding:0;border:0;background:none;color:inherit;font:inherit;text-decoration:underline'
    trouble.append(stop)
    const end = (isOnline: boolean) => () => {
      trouble.remove()
      removeEventListener('online', goOn)
      resolve(isOnline)
    }
    const goOn = end(true)
    addEventListener('online', goOn)
    stop.addEventListener('click', end(false))
  })
}

async function post({ form, begun, isInPlace }: SentForm, values: Record<string, string>): Promise<[Response, Body]> {
  const response = await fetch(form.action, {
    method: 'POST',
    headers: { Accept: 'application/json' },
    signal: AbortSignal.timeout(PATIENCE_MS),
    body: new URLSearchParams({
      ...values,
      'askbox-seconds': `${(Date.now() - begun) / 1e3}`,
      'askbox-zone': Intl.DateTimeFormat().resolvedOptions().timeZone,
      // A frame's width says nothing of the device.
      ...(parent === window && { 'askbox-width': `${innerWidth}` }),
      ...(isInPlace && { 'askbox-page': location.href.split('#')[0]! }),
    }),
  })
  return [response, (await response.json()) as Body]
}

/** Goes where the owner published, or shows the owner's words in the form's place. */
async function answer(sent: SentForm, values: Record<string, string>, body: Body): Promise<boolean> {
  const { form, settings, base, spot, onJoined } = sent
  const { answers, again, texts } = settings
  // Whoever sent a message without joining is asked again, and counts as no sign-up.
  const isMessage = body.outcome === 'message-sent'
  if (!isMessage) onJoined()
  const detail = { spot, outcome: body.outcome }
  const name = `askbox:${isMessage ? 'message-sent' : 'joined'}`
  form.dispatchEvent(new CustomEvent(name, { bubbles: true, composed: true, detail }))
  // A page may have been saved with fewer answers, and without the button.
  const said = (answers[body.case!] ?? answers[body.outcome!])!
  const own = body.address ?? said.address.trim()
  if ((body.held || said.show === 'address') && isWeb(own)) {
    const back = comeBackTo(sent)
    // That the mail was held is said on a page of ours, which shows in a frame as well.
    if (body.held) location.assign(own)
    else if (!(await goOn(sent, own, said))) return true
    await back
    return false
  }
  const typed = values[form.querySelector<HTMLInputElement>('input[type=email]')?.name ?? '']
  const result = show(sent, said)
  if (body.gift) {
    const link = linkTo(body.gift.address, body.gift.words)
    link.classList.add('askbox-gift')
    if (parent !== window) void fetched<typeof OnwardModule>(base, 'onward').then((module) => module?.openBeside(link))
    result.append(element('p', {}, link))
  }
  if (body.again && again)
    void fetched<typeof AgainModule>(base, 'again').then((module) => {
      if (module === null) return
      const button = element('button', { type: 'button', class: 'askbox-button' }, again.press)
      result.append(button)
      module.offer(button, again, `${base}resend/${spot}`, body.again!, () => tell(sent, texts.notSent, button))
    })
  if (body.instead && typed)
    void fetched<typeof SpellingModule>(base, 'spelling').then((spelling) =>
      spelling?.instead(result, typed, texts.didYouMean, `${base}resend/${spot}`, body.instead!),
    )
  return true
}

/** Words in the form's place, which takes their height without moving what is being read. */
function show(
  { form, card, pressedAt }: Pick<SentForm, 'form' | 'card' | 'pressedAt'>,
  { heading, message }: Pick<Answer, 'heading' | 'message'>,
): HTMLElement {
  const place = ((form.getRootNode() as ShadowRoot).host as HTMLElement | undefined) ?? card
  const before = place.getBoundingClientRect()
  for (const child of [...form.children]) if (!/^(style|script)$/i.test(child.tagName)) child.remove()
  const result = element(
    'div',
    { class: 'askbox-result', role: 'status', tabindex: '-1' },
    element('h2', { class: 'askbox-heading' }, heading),
    element('p', { style: 'white-space:pre-line' }, message),
  )
  form.append(result)
  keepRoom(place)
  // The place shrinks to the answer. What comes after it stays where it is read: where its beginning is out of sight, and
  // otherwise until the visitor goes on, unless this is still what the press did.
  const { top, height } = before
  if (top < 0) scrollBy({ top: place.getBoundingClientRect().bottom - before.bottom, behavior: 'instant' })
  else if (top < innerHeight && Date.now() - pressedAt > PRESS_MS) {
    keepRoom(place, height)
    for (const type of ['pointerdown', 'keydown', 'wheel', 'touchmove'])
      addEventListener(type, () => keepRoom(place), { once: true, passive: true })
  }
  result.focus({ preventScroll: top < 0 })
  return result
}

function tell(
  { form, button }: Pick<SentForm, 'form' | 'button'>,
  message: string,
  below: Element = button,
): HTMLElement {
  const trouble = form.querySelector<HTMLElement>('.askbox-trouble') ?? document.createElement('p')
  trouble.className = 'askbox-trouble askbox-error'
  trouble.setAttribute('role', 'alert')
  trouble.textContent = message
  below.after(trouble)
  return trouble
}

/** Whether the page's content policy kept something from being sent since now. Browsers tell of it a moment later. */
function watchPolicy(): { forbids(): Promise<boolean> } {
  let isForbidden = false
  document.addEventListener('securitypolicyviolation', ({ effectiveDirective }) => {
    if (effectiveDirective === 'connect-src') isForbidden = true
  })
  return { forbids: () => new Promise((resolve) => setTimeout(() => resolve(isForbidden), 50)) }
}
