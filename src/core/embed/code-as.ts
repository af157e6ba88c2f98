import type { Version } from '#core/form'
import type { CodeKind, Spot } from '#core/spot'
import { frameCode } from './frame'
import type { PlaceHeights } from './heights'
import { frameAddress, linkCode, pageAddress } from './link'
import { plainCode } from './plain'
import { placePart, popUpPart } from './script'

type PlainCode = typeof plainCode

/** A frame is as high as its form is there, where it is narrowest; so much where nobody measured it. CSS pixels. */
const SMALL_PHONE_PX = 320
const USUAL_HEIGHT_PX = 480

/**
 * A spot's code of one kind, as it is pasted; without the shared line.
 *
 * @param one its title is what a frame is called where the form has no heading
 */
export function codeAs(
  code: CodeKind,
  { spot, version, heights, title }: { spot: Spot; version: Version; heights: PlaceHeights | null; title: string },
  receiver: string,
  inTags: (placed: Parameters<PlainCode>[0]) => string = plainCode,
): string {
  const { content } = version
  const placed = { content, form: version.form, version: version.number, spot: spot.id, receiver }
  switch (code) {
    case 'script':
      return spot.kind === 'pop-up' ? popUpPart(receiver, spot.id) : placePart(content, receiver, spot.id, heights)
    case 'plain':
      return plainCode(placed)
    case 'in-tags':
      return inTags(placed)
    case 'frame': {
      const height = heights?.find(({ width }) => width >= SMALL_PHONE_PX)?.height ?? USUAL_HEIGHT_PX
      const size = { width: null, height, ...(heights !== null && { heights }) }
      return frameCode(frameAddress(receiver, spot.id), content.words.heading || title, size)
    }
    default:
      return linkCode(content, pageAddress(receiver, spot.slug ?? spot.id), { shownAs: 'button', opens: 'here' })
  }
}
