import type { Frame, Locator } from 'playwright-core'
import type { Visited } from '#core/rehearsal'
import { captured, windowOf } from './drawing'
import { type Scrolling, whereIs } from './moving'

/** CSS pixels to pixels of the picture: enough to see where the form stands. */
const WIDTH = 280

/** A small picture of the window, and where in it something stands. */
export async function picturedAt(
  { session }: Scrolling,
  target: Locator | null,
  frame: Frame,
): Promise<{ jpeg: string; field: Visited['field'] }> {
  const { pageX, pageY, clientWidth: width, clientHeight: height } = await windowOf(session)
  const jpeg = await captured(session, 'jpeg', { x: pageX, y: pageY, width, height, scale: WIDTH / width })
  const visible =
    target === null
      ? null
      : await whereIs(target, frame).then(
          (where) => where.visible,
          () => null,
        )
  return {
    jpeg,
    field:
      visible === null
        ? null
        : {
            left: visible.left / width,
            top: visible.top / height,
            width: (visible.right - visible.left) / width,
            height: (visible.bottom - visible.top) / height,
          },
  }
}
