import type { CDPSession, Frame, Locator, Page } from 'playwright-core'
import { frameIn, type SeenPart, whereOf, type Where } from './in-page'

/** What one goes through before one gives up. */
const MOST_TURNS = 60
const LONGEST_MS = 10_000
/** A page that moves itself does it a moment after the wheel. */
const MOVED_MS = 300
const LOOK_EVERY_MS = 20
/** How far a finger goes at once, in CSS pixels. */
const SWIPE = 500
const SWIPE_MOVES = 5
const REST_MS = 70
const MOST_TABS = 40

/** Where an element can be seen and pressed, in the window; or why it cannot be brought there. */
export type Reached = { area: SeenPart } | { area: null; why: string; markup: string }

export interface Scrolling {
  page: Page
  /** Of the page. */
  session: CDPSession
  isTouch: boolean
}

/**
 * Brings an element into sight as people do: by the wheel or a finger over what it stands in, else by the keys that move a
 * page. A box that only a program can scroll stays where it is.
 */
export async function reach(on: Scrolling, target: Locator, frame: Frame): Promise<Reached> {
  const begun = performance.now()
  let where = await whereIs(target, frame)
  let stuck = 0
  for (let turn = 0; turn < MOST_TURNS && performance.now() - begun < LONGEST_MS; turn += 1) {
    if (where.visible !== null) return { area: where.visible }
    if (where.scroll === null) break
    const before = where
    const byKeys = stuck === 1 && !on.isTouch
    if (byKeys) await on.page.keyboard.press(where.scroll.dy < 0 ? 'PageUp' : 'PageDown')
    else await scrollBy(on, where.scroll)
    where = await moved(target, frame, before)
    const isMoved = distance(where, before) >= 1
    if (isMoved) stuck = 0
    else if ((stuck += 1) > 1) break
  }
  if (where.visible !== null) return { area: where.visible }
  return {
    area: null,
    why: where.cutBy === '' ? 'It stands where nobody can scroll to' : `Nobody can scroll to it: ${where.cutBy}`,
    markup: where.markup,
  }
}

/** One turn of the wheel, or one stroke of a finger. */
export async function scrollBy(
  { page, session, isTouch }: Scrolling,
  { x, y, dx, dy, room }: NonNullable<Where['scroll']>,
): Promise<void> {
  if (!isTouch) {
    await page.mouse.move(x, y)
    await page.mouse.wheel(clamped(dx, 700), clamped(dy, 700))
    return
  }
  const [right, down] = [clamped(dx, Math.min(SWIPE, room.x * 0.8)), clamped(dy, Math.min(SWIPE, room.y * 0.8))]
  // From where there is room for the finger to go.
  const from = { x: x + right / 2, y: y + down / 2 }
  const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', share: number) =>
    session.send('Input.dispatchTouchEvent', {
      type,
      touchPoints: type === 'touchEnd' ? [] : [{ x: from.x - right * share, y: from.y - down * share }],
    })
  try {
    await touch('touchStart', 0)
    for (let at = 1; at <= SWIPE_MOVES; at += 1) await touch('touchMove', at / SWIPE_MOVES)
    // It rests before it leaves the screen: a page that is flung would go on by itself.
    await new Promise((resolve) => setTimeout(resolve, REST_MS))
    await touch('touchMove', 1)
    await touch('touchEnd', 1)
  } catch {
    // A page that is just going.
  }
}

/** Where it is, in the page's own window, through whatever frames. */
export async function whereIs(target: Locator, frame: Frame): Promise<Where> {
  let where = await target.evaluate(whereOf, null)
  for (let at = frame; at.parentFrame() !== null; at = at.parentFrame()!) {
    const element = await at.frameElement()
    const round = await element.evaluate(frameIn as (element: Node) => ReturnType<typeof frameIn>)
    const out = (part: SeenPart): SeenPart => ({
      left: round.left + part.left * round.scale,
      top: round.top + part.top * round.scale,
      right: round.left + part.right * round.scale,
      bottom: round.top + part.bottom * round.scale,
    })
    const inner = where
    // What has to be seen of the frame: where the pointer has to be in it, or the element itself.
    const meant =
      inner.visible ??
      (inner.scroll === null
        ? inner.box
        : { left: inner.scroll.x - 8, top: inner.scroll.y - 8, right: inner.scroll.x + 8, bottom: inner.scroll.y + 8 })
    const box = await element.evaluate(boxOf as (element: Node) => ReturnType<typeof boxOf>)
    const seen = out(meant)
    const part = {
      left: seen.left - box.left,
      top: seen.top - box.top,
      right: seen.right - box.left,
      bottom: seen.bottom - box.top,
    }
    const outer = await element.evaluate(
      whereOf as (element: Node, part: SeenPart) => Where,
      inner.visible === null && inner.scroll === null ? { ...part } : part,
    )
    where = {
      box: out(inner.box),
      cutBy: outer.cutBy || inner.cutBy,
      markup: outer.cutBy === '' ? inner.markup : outer.markup,
      visible: outer.scroll === null && inner.visible !== null ? outer.visible : null,
      scroll:
        outer.scroll ??
        (inner.scroll === null
          ? null
          : {
              ...{ x: round.left + inner.scroll.x * round.scale, y: round.top + inner.scroll.y * round.scale },
              ...{ dx: inner.scroll.dx * round.scale, dy: inner.scroll.dy * round.scale, room: inner.scroll.room },
            }),
    }
  }
  return where
}

/** Carried into the page. */
function boxOf(element: Element): { left: number; top: number } {
  const { left, top } = element.getBoundingClientRect()
  return { left, top }
}

/** Where it is once it has moved, or after it had its time. */
async function moved(target: Locator, frame: Frame, before: Where): Promise<Where> {
  const end = performance.now() + MOVED_MS
  let last = before
  for (;;) {
    await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS))
    const now = await whereIs(target, frame)
    if (distance(now, before) >= 1 && distance(now, last) < 1) return now
    if (performance.now() > end) return now
    last = now
  }
}

function distance(one: Where, other: Where): number {
  const far = (part: SeenPart, beside: SeenPart) => Math.abs(part.left - beside.left) + Math.abs(part.top - beside.top)
  // A box that was scrolled out of the way counts as well: another has its turn next.
  const turn = (at: Where) => (at.scroll === null ? 0 : 1)
  return far(one.box, other.box) + Math.abs(turn(one) - turn(other))
}

/** Whether the Tab key comes to it, from wherever the page is. Browsers then move what no hand can: nothing is looked at after it. */
export async function byTab(page: Page, target: Locator): Promise<boolean> {
  for (let tabs = 0; tabs < MOST_TABS; tabs += 1) {
    await page.keyboard.press('Tab')
    if (await target.evaluate(isFocused)) return true
  }
  return false
}

/** Carried into the page. */
function isFocused(element: Element): boolean {
  const root = element.getRootNode() as Document | ShadowRoot
  return root.activeElement === element
}

function clamped(value: number, most: number): number {
  return Math.max(-most, Math.min(most, value))
}
