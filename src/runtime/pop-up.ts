import type { PopUp } from '#core/spot'
import { cameFrom } from '../core/signup/came-from'
import { isOnPage } from '../core/rule/path-pattern'
import type { FormElement } from './form-element'
import type { PublishedForm } from './published'
import type { element as elementOf } from './nodes'
import type { load as loadFrom } from './load'

/*
 * Fetched by the visitors' script where it is asked for a pop-up. What the two share comes from the script, so that no page
 * loads it twice.
 */

/** Ends an address under which an owner, who has seen it, is shown it again. */
const AGAIN = '#askbox-again'
const DAY_MS = 86_400_000
let element: typeof elementOf

/** How often it is looked whether the moment has come: a page's program may have changed the address meanwhile. */
const LOOK_MS = 500
const OWN = 'askbox-form.pop-up'
/** After a keystroke, somebody is still typing. */
const TYPING_MS = 3_000
/** For so long a page that hardly scrolls is read. */
const SHORT_PAGE_MS = 20_000
/** Between one pop-up and the next: whoever has just closed one is left in peace. */
const PAUSE_MS = 60_000
let closedAt = -PAUSE_MS

/** Shows a spot's form over the page when its owner's rules say so. */
export async function popUp(
  { load, ...tools }: { load: typeof loadFrom; element: typeof elementOf },
  base: string,
  spot: string,
): Promise<void> {
  ;({ element } = tools)
  const published = await load(base, spot)
  if (published?.state !== 'live' || published.popUp === undefined) return
  const rules = published.popUp
  const { campaigns = [] } = rules
  const campaign = cameFrom(location.href, document.referrer).campaign.toLowerCase()
  const isMeant = campaigns.length === 0 || campaigns.some((words) => campaign.includes(words.toLowerCase()))
  const isHere = () => isOnPage(rules.pages, location.pathname)
  // A rehearsal of another one: of two, the first would be the only one.
  const [, rehearsed = spot] = location.hash.startsWith('#askbox-r') ? location.hash.split('=') : []
  if (rehearsed !== spot) return
  if (location.hash !== AGAIN) {
    await until(isHere)
    // A rehearsal looks whether it comes where it should, not when.
    if (!location.hash.startsWith('#askbox-r')) {
      if (!isMeant || !mayShow(published.spot, rules)) return
      const typed = watchTyping()
      await moment(rules.when)
      await until(() => isHere() && !typed() && !isCovered() && performance.now() - closedAt > PAUSE_MS)
      // Meanwhile, whoever it is may have joined in a form of the page.
      if (!mayShow(published.spot, rules)) return
    }
  }
  // Its owner, and a rehearsal, are shown it whatever else is open, once.
  if (document.querySelector(OWN)) return
  remember(published.spot, rules, 'seen')
  open(published, rules)
}

async function until(holds: () => boolean): Promise<void> {
  while (!holds()) await new Promise((resolve) => setTimeout(resolve, LOOK_MS))
}

/** Whether a dialog of the page, or another pop-up, is open. */
function isCovered(): boolean {
  const dialogs = `${OWN},dialog[open],[role=dialog],[role=alertdialog],[aria-modal=true]`
  return [...document.querySelectorAll(dialogs)].some(
    (one) => one.checkVisibility?.({ visibilityProperty: true }) ?? true,
  )
}

/** Tells whether somebody is typing: has just done so, or went into a field, or is in one that is not empty. */
function watchTyping(): () => boolean {
  let last = -TYPING_MS
  let pressed = -TYPING_MS
  /** The field that somebody went into; one that the page itself put the focus in is none. */
  let entered: EventTarget | null = null
  const options = { capture: true, passive: true }
  addEventListener('keydown', ({ timeStamp }) => (last = pressed = timeStamp), options)
  addEventListener('pointerdown', ({ timeStamp }) => (pressed = timeStamp), options)
  addEventListener(
    'focusin',
    (event) => (entered = event.timeStamp - pressed < TYPING_MS ? (event.composedPath()[0] ?? null) : null),
    options,
  )
  return () => {
    let field = document.activeElement as (HTMLElement & Partial<HTMLInputElement>) | null
    while (field?.shadowRoot?.activeElement) field = field.shadowRoot.activeElement as HTMLElement
    const isIn = field?.matches('input,textarea')
      ? field.value !== '' || field === entered
      : field?.isContentEditable || field?.localName === 'iframe'
    return performance.now() - last < TYPING_MS || isIn === true
  }
}

function open(published: PublishedForm, { position }: PopUp): void {
  const isModal = position === 'middle'
  const host = document.createElement('askbox-form') as FormElement
  const { settings } = published
  host.className = 'pop-up'
  document.body.append(host)
  let before: Element | null = null
  let dialog!: HTMLElement
  const close = element('button', { type: 'button', class: 'close', 'aria-label': settings!.texts.close }, '×')
  host.show(published, 0, (form) => {
    // A dialog that is shown as a popover takes the focus, which is the page's.
    dialog = element(isModal ? 'dialog' : 'div', {
      class: 'over',
      role: 'dialog',
      'aria-label': published.title!,
      tabindex: '-1',
    })
    dialog.dir = published.direction!
    dialog.append(close, form)
    return dialog
  })
  dialog.addEventListener('askbox:joined', () => remember(published.spot, { often: { kind: 'once' } }, 'joined'))
  if (isModal) {
    const release = holdPage()
    const modal = dialog as HTMLDialogElement
    close.addEventListener('click', () => modal.close())
    dialog.addEventListener('click', (event) => {
      // A press beside it closes it, unless that would throw away what was typed.
      const typed = [...dialog.querySelectorAll<HTMLInputElement>('input:not([type=hidden]),textarea')]
      const isTyped = typed.some(({ type, value, checked }) =>
        /^(checkbox|radio)$/.test(type) ? checked : value !== '',
      )
      if (event.target === dialog && !isTyped) modal.close()
    })
    dialog.addEventListener('close', () => {
      release()
      closedAt = performance.now()
      host.remove()
    })
    modal.showModal()
    // The dialog itself, not its first field: on phones that would bring up the keys over it.
    dialog.focus()
    return
  }
  // In a corner it is beside the page, not in its way: the focus stays where it is until somebody goes there.
  const open = new AbortController()
  const end = () => {
    open.abort()
    closedAt = performance.now()
    host.remove()
    if (before instanceof HTMLElement) before.focus()
  }
  close.addEventListener('click', end)
  dialog.addEventListener('focusin', (event) => (before ??= event.relatedTarget as Element | null))
  // Whatever was opened last is what Escape is for: a dialog of the page that lies over it goes first.
  addEventListener(
    'keydown',
    (event) => {
      if (event.key === 'Escape' && !event.defaultPrevented && document.querySelector(':modal') === null) end()
    },
    { signal: open.signal },
  )
  // In the top layer, the corner is that of the window, whatever the page does to its body.
  dialog.popover = 'manual'
  dialog.showPopover?.()
}

/** The page behind does not scroll, nor move where its scroll bar was. Returns what lets it go. */
function holdPage(): () => void {
  const { style, clientWidth } = document.documentElement
  const before = [style.overflow, style.scrollbarGutter] as const
  style.overflow = 'hidden'
  if (innerWidth > clientWidth) style.scrollbarGutter = 'stable'
  return () => ([style.overflow, style.scrollbarGutter] = before)
}

/** Resolves at the moment that the rules name. */
function moment(when: PopUp['when']): Promise<void> {
  return new Promise((resolve) => {
    const end = new AbortController()
    const listen = (target: EventTarget, type: string, listener: (event: Event) => void) =>
      target.addEventListener(type, listener, { passive: true, signal: end.signal })
    const now = () => {
      end.abort()
      resolve()
    }
    const page = document.documentElement
    switch (when.kind) {
      case 'at-once':
        return now()
      case 'seconds':
        return void setTimeout(now, when.seconds * 1000)
      case 'half': {
        // Of a page that hardly scrolls, half is in sight at once: there it waits as for a reader.
        const isShort = () => page.scrollHeight <= 2 * innerHeight
        const look = () => !isShort() && scrollY + innerHeight >= page.scrollHeight / 2 && now()
        listen(window, 'scroll', look)
        setTimeout(() => isShort() && now(), SHORT_PAGE_MS)
        return void look()
      }
      case 'leaving': {
        let [at, top] = [0, scrollY]
        const isTouch = matchMedia('(pointer:coarse)').matches
        // On touch screens nothing leaves the page; whoever wants to, scrolls up fast to reach the browser's bar, or comes back.
        listen(window, 'scroll', ({ timeStamp }) => {
          const speed = (top - scrollY) / (timeStamp - at)
          if (at > 0 && timeStamp - at < 200 && speed > 2 && isTouch) now()
          ;[at, top] = [timeStamp, scrollY]
        })
        listen(document, 'visibilitychange', () => isTouch && !document.hidden && now())
        listen(page, 'mouseleave', (event) => (event as MouseEvent).clientY <= 0 && now())
      }
    }
  })
}

/** Remembered in the page's own storage, and only what the rules need. Where nothing can be, nobody is shown it over and over. */
function mayShow(spot: string, { often }: PopUp): boolean {
  try {
    const stored = storageFor('once').getItem(`askbox-${spot}`) ?? ''
    if (stored === 'joined') return false
    if (often.kind === 'every-visit') return storageFor(often.kind).getItem(`askbox-${spot}`) === null
    return stored === '' || (often.kind === 'days' && Date.now() - Number(stored) > often.days * DAY_MS)
  } catch {
    return false
  }
}

function remember(spot: string, { often }: Pick<PopUp, 'often'>, what: 'seen' | 'joined'): void {
  try {
    storageFor(often.kind).setItem(`askbox-${spot}`, what === 'joined' ? what : String(Date.now()))
  } catch {
    // Where storage is blocked, nothing is remembered.
  }
}

function storageFor(often: PopUp['often']['kind']): Storage {
  return often === 'every-visit' ? sessionStorage : localStorage
}
