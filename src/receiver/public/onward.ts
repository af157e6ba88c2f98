import type { Context } from 'hono'
import { type AnswerSign, type FrameTells, onwardPage, type PageContent } from '#core/render'
import { type LinkKeys, sealingWith } from '../secrets'
import { type PageAnswer, sendPage } from '../pages'

/*
 * The way from a post to a page of the owner's. What a post on one of our pages, or in any frame, is answered with is at
 * our own address: browsers hold where a form may lead to against redirects too, and a frame is not to be left without its
 * page's leave. From there somebody goes on by a step of that page. Plain code on the owner's own site is sent on at once.
 */

/** Whether a page is asked for by a frame: Fetch Metadata Request Headers, `Sec-Fetch-Dest`. */
export function isInFrame(c: Context): boolean {
  return /^(iframe|frame|embed|object)$/.test(c.req.header('Sec-Fetch-Dest') ?? '')
}

/**
 * Answers with the step that leads on to a page of the owner's.
 *
 * @param said read where one does not go on at once: our words for the case, as the owner's are on that page
 */
export function sendOnward(
  c: Context,
  publicUrl: string,
  address: string,
  {
    said,
    content,
    sign = null,
    tells = null,
    mayBeFramed = true,
    status = 200,
    headers = {},
  }: {
    said: { heading: string; message: string }
    content: PageContent
    sign?: AnswerSign | null
    tells?: FrameTells | null
    mayBeFramed?: boolean
  } & Pick<PageAnswer, 'status' | 'headers'>,
): Response {
  const inFrame = mayBeFramed && isInFrame(c)
  return sendPage(
    c,
    publicUrl,
    onwardPage(address, said, content, { sign, isInFrame: inFrame, tells, receiver: publicUrl }),
    {
      posts: 'nothing',
      ...{ status, headers },
      withScript: inFrame,
      actsByItself: true,
      inFrames: mayBeFramed,
    },
  )
}

/** What an answer's page passes on of one sign-up, sealed: it stands in an address of ours for a moment, and in logs. */
export interface PassedOn {
  seal(values: Record<string, string>, at: number): string
  /** Null for what is none of ours, of another spot, or older than an hour. */
  open(sealed: string, now: number): Record<string, string> | null
}

const KEPT_MS = 3_600_000

export function passedOn(keys: LinkKeys, spot: string): PassedOn {
  const sealing = sealingWith(() => keys.passing())
  const about = `passed on at ${spot}`
  return {
    seal: (values, at) => sealing.seal(JSON.stringify({ at, values }), about),
    open(sealed, now) {
      const text = sealing.open(sealed, about)
      if (text === null) return null
      const { at, values } = JSON.parse(text) as { at: number; values: Record<string, string> }
      return Math.abs(now - at) <= KEPT_MS ? values : null
    },
  }
}
