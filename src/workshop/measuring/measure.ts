import { onScopeDispose, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { type Drawn, firstScreens, type Measures } from '#core/checkup'
import { rulesHeld, statesIn } from '#core/css'
import type { FormContent } from '#core/form'
import type { FormId } from '#core/ids'
import { type Page, toDocument } from '#core/render'
import { spotKinds } from '#core/spot'
import { type Scene, scenePage, type Visitor, withStyle } from '../preview'
import { whenRested } from '../rest'
import { blobOf, usePictures, useWorkspace, useMeasured } from '../data'
import { type OverPicture, overPicture } from './behind'
import { changesIn, changesOf, readRendering, type Rendered } from './drawn'
import { overflowsIn } from './overflows'

const AFTER_MS = 350

/**
 * Measures a form's renderings, out of sight, some time after each change: as it stands in a page and as a
 * page of its own, whichever its spots are, at every width that they have.
 */
export function useMeasures(id: MaybeRefOrGetter<FormId>, content: () => FormContent): void {
  const workspace = useWorkspace()
  const pictures = usePictures()
  const measured = useMeasured()
  const frame = frameOutOfSight()
  let round = 0
  onScopeDispose(() => {
    round += 1
    frame.remove()
  })

  const measure = whenRested(async () => {
    if (!frame.isConnected) return
    const mine = ++round
    const form = toValue(id)
    const now = content()
    const results: Found = { overflows: [], over: [], changes: [], firstField: [] }
    /** The page as a visitor gets it; null once another measuring has the frame. */
    const rendered = async (scene: Scene) => {
      if (mine === round) await load(frame, scenePage(scene))
      return mine === round ? frame.contentDocument : null
    }
    for (const { isLanding, widths } of placesOf(form)) {
      const scene: Scene = { content: now, form, pictureAddress: pictures.addressOf, isLanding }
      // A landing page is painted on the browser's default white canvas.
      const base = isLanding ? '#ffffff' : workspace.paletteOf(form).background
      const page = await rendered(scene)
      for (const width of widths) {
        if (page === null || mine !== round) return
        frame.style.width = `${width}px`
        results.overflows.push(...overflowsIn(page, width))
        results.over.push(await overPicture({ page, width, look: now.look, picture: pictureBehind(now, width), base }))
      }
      if (isLanding && page !== null) results.firstField.push(...firstFieldsOn(page))
      const { rules } = now.look.custom
      if (rules.length === 0) continue
      const read = async (ownRules: typeof rules, visitor: Visitor) => {
        const shown = await rendered({ ...scene, content: withOwnRules(now, ownRules), visitor })
        return widths.flatMap((width) => {
          if (shown === null) return []
          frame.style.width = `${width}px`
          return [readRendering(shown, width, base)]
        })
      }
      const compare = (after: Rendered[], before: Rendered[], changes: typeof changesOf) => {
        for (const [at, width] of widths.entries())
          if (after[at] && before[at]) results.changes.push(changes(after[at], before[at], width))
      }
      const asItStands = await read(rules, 'new')
      compare(asItStands, await read([], 'new'), changesOf)
      compare(await read(rules, 'errors'), await read([], 'errors'), changesOf)
      for (const state of statesIn(rules))
        compare(await read(rulesHeld(rules, state), 'new'), asItStands, (...both) => changesIn(state, ...both))
    }
    if (mine === round) void measured.set(form, measuresFrom(now, results))
  }, AFTER_MS)
  watch([() => toValue(id), content], measure, { immediate: true })

  /** The kinds of places where the form sits, each with its widths, narrowest first. */
  function placesOf(form: FormId): { isLanding: boolean; widths: number[] }[] {
    const live = spotKinds.filter(({ kind }) =>
      workspace.spotsOf(form).some((spot) => spot.state === 'live' && spot.kind === kind),
    )
    return [false, true]
      .map((isLanding) => ({
        isLanding,
        widths: [
          ...new Set(live.filter(({ kind }) => (kind === 'landing') === isLanding).flatMap(({ widths }) => widths)),
        ].sort((one, other) => one - other),
      }))
      .filter(({ widths }) => widths.length > 0)
  }

  /**
   * Where the first field ends, for a desk's and a phone's first screen. Lengths in `vh` resolve against the screen being
   * measured, so the frame gets that screen's height.
   */
  function firstFieldsOn(page: Document): NonNullable<Measures['firstField']> {
    const before = frame.style.height
    const ends = firstScreens.flatMap(({ width, height }) => {
      Object.assign(frame.style, { width: `${width}px`, height: `${height}px` })
      const field = [...page.querySelectorAll('.askbox-field .askbox-input, .askbox-field .askbox-box')].find(
        (one) => one.getBoundingClientRect().height > 0,
      )
      return field === undefined
        ? []
        : [{ width, height, end: field.getBoundingClientRect().bottom + (page.defaultView?.scrollY ?? 0) }]
    })
    frame.style.height = before
    return ends
  }

  function pictureBehind({ look, illustration }: FormContent, width: number): Blob | null {
    if (illustration === null || look.picture.place !== 'behind') return null
    const use = width <= 480 && illustration.phonePicture !== null ? illustration.phonePicture : illustration.picture
    const picture = workspace.pictures.find((one) => one.id === use.id)
    return picture === undefined ? null : blobOf(picture)
  }
}

interface Found {
  overflows: Measures['overflows'][number][]
  over: OverPicture[]
  changes: Omit<Drawn, 'look'>[]
  firstField: NonNullable<Measures['firstField']>[number][]
}

function measuresFrom({ look }: FormContent, { overflows, over, changes, firstField }: Found): Measures {
  return {
    firstField,
    // Widths come narrowest first, for each kind of place.
    overflows: overflows.filter(({ selector }, at) => overflows.findIndex((one) => one.selector === selector) === at),
    behind: over.flatMap(({ behind }) => behind),
    isOnGround: over.some(({ isOnGround }) => isOnGround),
    drawn:
      look.custom.rules.length === 0
        ? null
        : {
            look,
            texts: [...over, ...changes].flatMap(({ texts }) => texts),
            edges: changes.flatMap(({ edges }) => edges),
            hidden: changes.flatMap(({ hidden }) => hidden),
          },
  }
}

function withOwnRules(content: FormContent, rules: FormContent['look']['custom']['rules']): FormContent {
  return { ...content, look: { ...content.look, custom: { typed: '', rules } } }
}

function frameOutOfSight(): HTMLIFrameElement {
  const frame = document.createElement('iframe')
  frame.setAttribute('sandbox', 'allow-same-origin')
  frame.setAttribute('aria-hidden', 'true')
  frame.tabIndex = -1
  Object.assign(frame.style, {
    position: 'fixed',
    left: '-9999px',
    top: '0',
    width: '320px',
    height: '2000px',
    visibility: 'hidden',
    border: '0',
  })
  document.body.append(frame)
  return frame
}

/** Switches animations and transitions off: positions are measured after them. */
const AT_REST = '*{animation:none!important;transition:none!important}'
let loads = 0

/** Resolves once the frame shows this document, or a later one: the event of the one before may still be on its way. */
function load(frame: HTMLIFrameElement, page: Page): Promise<void> {
  const number = ++loads
  return new Promise((resolve) => {
    const onLoad = () => {
      if (Number(frame.contentDocument?.documentElement.dataset.load) < number) return
      frame.removeEventListener('load', onLoad)
      resolve()
    }
    frame.addEventListener('load', onLoad)
    const { attributes, ...rest } = withStyle(page, AT_REST)
    frame.srcdoc = toDocument({ ...rest, attributes: { ...attributes, 'data-load': String(number) } })
  })
}
