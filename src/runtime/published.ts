import type { WiredForm } from '#core/render'
import type { PopUp } from '#core/spot'

/** What `GET /form/:spot.json` says of a spot. A live one comes with its form, a paused one with what stands in its place. */
export interface PublishedForm extends Partial<WiredForm> {
  spot: string
  state: 'live' | 'paused' | 'retired'
  version: number
  /** The receiver's signed note of this view; null for one that is not counted. */
  view: string | null
  popUp?: PopUp
  /** Pop-ups of the same list on the same site, which ask nobody who joined here. */
  popUps?: string[]
  /** Whether the owner lets this browser keep which of several wordings it was shown. */
  isKept?: true
  /** Whether other wordings are shown in turn with this one. */
  isTried?: true
}
