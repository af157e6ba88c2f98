import { evidence, type Failure, failure, heldBack, type ReceivedMail, type Shown } from '#core/proof'
import type { MailWay } from './mail'
import { type AnsweredPage, type MailRead, type MailWish, NoAnswer, type PressSeen } from './ports'
import { shownOn, shownOnVisit } from './shown'
import { NEEDS_BROWSER } from './sign-up'

/** What a link of ours shows, opened or pressed. */
export async function openLink(
  { ports }: MailWay,
  address: string,
): Promise<{ page: AnsweredPage | null; shown: Shown; form: PressForm | null }> {
  try {
    const page = await ports.fetch(address)
    return {
      page: { ...page, location: null },
      shown: shownOn(page.html, page.status, page.address),
      form: pressIn(page.html, page.address),
    }
  } catch (error) {
    if (!(error instanceof NoAnswer)) throw error
    return { page: null, shown: nothing(error.message), form: null }
  }
}

export interface PressForm {
  action: string
  body: string
}

/** The one form of a page of ours: its action, and what its button sends. */
function pressIn(html: string, address: string): PressForm | null {
  const form = /<form\b[^>]*\bmethod="post"[^>]*\baction="([^"]{1,500})"[^>]*>/.exec(html)
  if (form === null) return null
  const end = html.indexOf('</form>', form.index)
  const inner = html.slice(form.index, end < 0 ? undefined : end)
  const pairs = [...inner.matchAll(/<input type="hidden" name="([^"]{1,100})" value="([^"]{0,500})">/g)]
  return {
    action: new URL(form[1]!.replaceAll('&amp;', '&'), address).href,
    body: pairs.map(([, name, value]) => `${encodeURIComponent(name!)}=${encodeURIComponent(value!)}`).join('&'),
  }
}

/** By a request, as programs press: what its reader's browser would let happen is not seen by it. */
export async function press({ ports }: MailWay, { action, body }: PressForm): Promise<Shown> {
  try {
    const answer = await ports.send({
      address: action,
      contentType: 'application/x-www-form-urlencoded',
      body: new TextEncoder().encode(body),
    })
    const shown = shownOn(answer.html, answer.status, answer.address)
    if (shown.address === answer.address) return shown
    const led = await ports.fetch(shown.address)
    return shownOn(led.html, led.status, led.address)
  } catch (error) {
    if (!(error instanceof NoAnswer)) throw error
    return nothing(error.message)
  }
}

/** Presses in a mail and on the pages that it leads to, by a hand in a browser; the reason where there is none. */
export async function pressInMail(
  { ports, publicUrl }: MailWay,
  { html, text }: ReceivedMail,
  link: string,
  presses: MailWish['presses'],
): Promise<({ isTried: true } & MailRead) | { isTried: false; reason: string }> {
  if (ports.browser?.kind !== 'visits') return { isTried: false, reason: NEEDS_BROWSER }
  return ports.browser.read({ html, text, link, presses, receiver: publicUrl })
}

/** What kept a press from leading anywhere; null where a page or a file came. */
export function pressFailure(seen: PressSeen | undefined, what: string): Failure | null {
  if (seen === undefined || (seen.obstacle === null && seen.page === null && seen.file === null))
    return failure('press-missing', 'mail', {
      expected: `${what} can be pressed.`,
      happened: 'There was nothing to press.',
      cause: 'The page that came before it is another than ours.',
      mend: 'Open the mail yourself and press; look at what stands before the receiver.',
    })
  const { obstacle, complaints } = seen
  if (obstacle === null) return null
  const more = complaints.length === 0 ? [] : [evidence('response', complaints.join('\n'))]
  if (obstacle.code === 'answer-missing') return heldBack(`${what} leads on.`, null, more)
  return failure(
    'press-unseen',
    'mail',
    {
      expected: `${what} is seen, and can be pressed.`,
      happened: obstacle.detail || 'It is not there.',
      cause: 'It is not there, is hidden, or something lies over it.',
      mend: 'Open the mail yourself; write the message again, or take away what is in the way.',
    },
    ...(obstacle.markup === '' ? [] : [evidence('markup', obstacle.markup)]),
    ...more,
  )
}

/** What is read after a press. */
export function shownAfter({ page }: PressSeen): Shown {
  return page === null ? nothing('No page came.') : shownOnVisit(page)
}

function nothing(message: string): Shown {
  return { status: 0, address: '', heading: '', message, errors: {}, kept: {} }
}
