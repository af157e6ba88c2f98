import { type Browsed, type Fill, type FramingBrowser, setControl } from '#core/rehearsal'

const LOAD_MS = 10_000
/** A page that loads without opening the channel: its script is missing, or it is an older one. */
const CHANNEL_MS = 4_000
const ANSWER_MS = 15_000
const HEIGHT = 800

/**
 * The browser of a rehearsal: this one. Pages are shown in a frame that can reach nothing of the workshop.
 *
 * @param host where the frame stands; it has to be seen, because browsers slow down what is not
 * @param code of the rehearsal that goes on
 * @param receiver where it goes on
 */
export function framesIn(host: () => HTMLElement | null, code: () => string, receiver: () => string): FramingBrowser {
  return {
    kind: 'frames',
    origin: location.origin,
    zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
    async withScripts({ address, spot, width, fills, presses }) {
      const place = host()
      if (place === null) return untried('The window was closed meanwhile.')
      const page = new URL(address)
      page.hash = `askbox-rehearsal-${code()}`
      // Of our own origin, it could reach out of its frame.
      const isOurs = page.origin === location.origin
      const frame = frameOf(width, `allow-scripts allow-forms${isOurs ? '' : ' allow-same-origin'}`)
      try {
        const channel = openChannel(frame, code())
        const isLoaded = load(frame, place, page.href)
        const port = await Promise.race([channel, isLoaded.then(() => pause(CHANNEL_MS))])
        if (port === undefined) {
          // A page without our script shows nothing of ours, which is what some pages are looked at for.
          if (fills === null) return { isTried: true, isThere: false, width: 0, sticksOut: false, shown: null }
          return untried(
            'In a frame, the page did not let the visitors’ script speak: it forbids frames, or the script did not load.',
          )
        }
        const answer = new Promise((resolve) => (port.onmessage = ({ data }: MessageEvent) => resolve(data)))
        port.postMessage({ spot, fills, presses })
        const seen = await Promise.race([answer, pause(ANSWER_MS)])
        return seen === undefined
          ? untried('The page gave no answer within 15 seconds.')
          : ({ isTried: true, ...(seen as object) } as Awaited<ReturnType<FramingBrowser['withScripts']>>)
      } finally {
        keepInSight(frame)
      }
    },

    async withoutScripts({ address, action, width, fills }) {
      const place = host()
      if (place === null) return untried('The window was closed meanwhile.')
      if (new URL(receiver()).origin !== location.origin)
        return untried(
          'The workshop was opened from another address than the receiver’s, so it cannot look into the copy.',
        )
      const frame = frameOf(width, 'allow-same-origin allow-forms')
      const copy = `${receiver()}/rehearsal/${code()}/page?address=${encodeURIComponent(address)}`
      try {
        if (!(await load(frame, place, copy))) return untried('The copy of the page did not load.')
        const page = frame.contentDocument
        const form = page === null ? undefined : formIn(page, action)
        if (page === null || form === undefined)
          return { isTried: true, isThere: false, isSeen: false, sticksOut: false, buttonHeight: 0 }
        const button = buttonOf(form, action)
        const box = form.getBoundingClientRect()
        const seen = {
          isTried: true as const,
          isThere: true,
          isSeen: isSeen(button ?? form) && box.width > 0,
          sticksOut: box.left < -1 || box.right > page.documentElement.clientWidth + 1,
          buttonHeight: button?.getBoundingClientRect().height ?? 0,
        }
        if (button !== undefined && button.type !== 'submit')
          return untried('What looks like the form’s button is none that sends it.')
        for (const fill of fills) fillIn(form, fill)
        // An answer that would take the whole window stays in the frame.
        form.removeAttribute('target')
        const answered = new Promise<true>((resolve) =>
          frame.addEventListener('load', () => resolve(true), { once: true }),
        )
        form.requestSubmit(button)
        await Promise.race([answered, pause(ANSWER_MS)])
        return seen
      } catch (error) {
        // Whatever a page does to its form is something that was found, and ends no rehearsal.
        return untried(`The form could not be filled in: ${error instanceof Error ? error.message : String(error)}`)
      } finally {
        keepInSight(frame)
      }
    },
  }
}

function untried<T>(reason: string): Browsed<T> {
  return { isTried: false, reason }
}

function frameOf(width: number, sandbox: string): HTMLIFrameElement {
  const frame = document.createElement('iframe')
  frame.setAttribute('sandbox', sandbox)
  frame.referrerPolicy = 'no-referrer'
  frame.title = 'The page in rehearsal'
  frame.width = String(width)
  frame.height = String(HEIGHT)
  frame.style.setProperty('--frame-width', `${width}px`)
  return frame
}

/** What was shown last is seen until the next has loaded, so that nothing flickers. */
function keepInSight(frame: HTMLIFrameElement): void {
  frame.style.zIndex = '1'
}

/** Resolves with whether it loaded. */
function load(frame: HTMLIFrameElement, place: HTMLElement, address: string): Promise<boolean> {
  const loaded = new Promise<boolean>((resolve) => frame.addEventListener('load', () => resolve(true), { once: true }))
  frame.src = address
  place.append(frame)
  void loaded.then(() => {
    for (const other of [...place.children]) if (other !== frame) other.remove()
  })
  return Promise.race([loaded, pause(LOAD_MS).then(() => false)])
}

/** The page says by the code that it is ready; what it gets in answer is a channel of which nobody else knows. */
function openChannel(frame: HTMLIFrameElement, code: string): Promise<MessagePort> {
  return new Promise((resolve) => {
    const listen = ({ source, data }: MessageEvent) => {
      if (source === null || source !== frame.contentWindow || (data as { askbox?: unknown } | null)?.askbox !== code)
        return
      removeEventListener('message', listen)
      const { port1, port2 } = new MessageChannel()
      frame.contentWindow.postMessage({ askbox: code }, '*', [port2])
      resolve(port1)
    }
    addEventListener('message', listen)
    setTimeout(() => removeEventListener('message', listen), LOAD_MS + CHANNEL_MS)
  })
}

function pause(ms: number): Promise<undefined> {
  return new Promise((resolve) => setTimeout(() => resolve(undefined), ms))
}

function formIn(page: Document, action: string): HTMLFormElement | undefined {
  return [...page.forms].find((form) => form.getAttribute('action') === action || buttonOf(form, action) !== undefined)
}

function buttonOf(form: HTMLFormElement, action: string): HTMLButtonElement | undefined {
  return [...form.elements].find((one): one is HTMLButtonElement => one.getAttribute('formaction') === action)
}

function isSeen(element: HTMLElement): boolean {
  return element.checkVisibility({ opacityProperty: true, visibilityProperty: true })
}

function fillIn(form: HTMLFormElement, { name, value }: Fill): void {
  for (const one of form.elements) {
    const control = one as HTMLInputElement
    if (control.name === name) setControl(control, value)
  }
}
