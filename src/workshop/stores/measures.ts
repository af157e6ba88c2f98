import { useDebounceFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { onScopeDispose, reactive, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { type Measures, nothingMeasured } from '#core/checkup'
import type { FormContent } from '#core/form'
import type { FormId } from '#core/ids'
import { spotKinds } from '#core/spot'
import { sceneDocument } from '../parts/pictures'
import type { BehindAnswer, BehindWish } from '../workers/behind'
import { blobOf, usePictures } from './pictures'
import { useWorkspace } from './workspace'

/** What the real renderings showed, by form. Taken while a form is worked on; the checkup reads it. */
export const useMeasured = defineStore('measures', () => {
  const all = reactive(new Map<FormId, Measures>())
  return { of: (id: FormId) => all.get(id) ?? nothingMeasured, set: (id: FormId, measures: Measures) => all.set(id, measures) }
})

const AFTER_MS = 350
const TEXTS = ['.askbox-heading', '.askbox-introduction', '.askbox-label', '.askbox-small']
/** A word that would have to be broken does not fit, so for measuring nothing may break it. */
const UNBROKEN = '<style>#page *{overflow-wrap:normal!important;word-break:normal!important;hyphens:manual!important}</style></head>'

/** Measures a form's rendering, out of sight, at every width that its spots have, some time after each change. */
export function useMeasures(id: MaybeRefOrGetter<FormId>, content: () => FormContent): void {
  const workspace = useWorkspace()
  const pictures = usePictures()
  const measured = useMeasured()
  const frame = document.createElement('iframe')
  frame.setAttribute('sandbox', 'allow-same-origin')
  frame.setAttribute('aria-hidden', 'true')
  frame.tabIndex = -1
  Object.assign(frame.style, { position: 'fixed', left: '-9999px', top: '0', width: '320px', height: '2000px', visibility: 'hidden', border: '0' })
  document.body.append(frame)
  let round = 0
  let isGone = false
  onScopeDispose(() => {
    isGone = true
    frame.remove()
  })

  const measure = useDebounceFn(async () => {
    if (isGone) return
    const mine = ++round
    const form = toValue(id)
    const now = content()
    const scene = { content: now, form, pictureAddress: pictures.addressOf }
    await shown(frame, sceneDocument(scene).replace('</head>', UNBROKEN))
    const page = frame.contentDocument
    if (page === null || mine !== round || isGone) return
    const kinds = workspace.spotsOf(form).filter(({ state }) => state === 'live').map(({ kind }) => kind)
    const widths = [...new Set(spotKinds.filter(({ kind }) => kinds.includes(kind)).flatMap((kind) => kind.widths))].sort((one, other) => one - other)
    const overflows = new Map<string, Measures['overflows'][number]>()
    const behind: Measures['behind'][number][] = []
    for (const width of widths) {
      frame.style.width = `${width}px`
      for (const found of overflowsIn(page, width)) if (!overflows.has(found.place)) overflows.set(found.place, found)
      behind.push(...(await behindIn(page, width, now)))
      if (mine !== round || isGone) return
    }
    measured.set(form, { overflows: [...overflows.values()], behind })
  }, AFTER_MS)
  watch([() => toValue(id), content], () => void measure(), { immediate: true })

  async function behindIn(page: Document, width: number, { look, illustration }: FormContent): Promise<Measures['behind'][number][]> {
    if (illustration === null || look.picture.place !== 'behind') return []
    const use = width <= 480 && illustration.phonePicture !== null ? illustration.phonePicture : illustration.picture
    const picture = workspace.pictures.find((one) => one.id === use.id)
    const form = page.querySelector('form.askbox')
    if (picture === undefined || form === null || (width <= 480 && !illustration.onPhones)) return []
    const box = form.getBoundingClientRect()
    const areas = TEXTS.flatMap((place) =>
      [...page.querySelectorAll(place)].map((node) => {
        const range = page.createRange()
        range.selectNodeContents(node)
        const text = range.getBoundingClientRect()
        return { place, area: { left: text.left - box.left, top: text.top - box.top, width: text.width, height: text.height } }
      }),
    )
    const wish: BehindWish = {
      picture: blobOf(picture),
      width: Math.max(1, Math.round(box.width)),
      height: Math.max(1, Math.round(box.height)),
      background: look.ground.kind === 'none' ? workspace.paletteOf(toValue(id)).background : look.colours.background,
      strength: look.picture.strength / 100,
      text: look.colours.text,
      areas,
    }
    return (await inWorker(wish)).filter(({ colours }) => colours.length > 0).map(({ place, colours }) => ({ place, width, colours }))
  }
}

function overflowsIn(page: Document, width: number): Measures['overflows'][number][] {
  const form = page.querySelector('form.askbox')
  if (form === null) return []
  const room = form.getBoundingClientRect()
  return ['.askbox-button', '.askbox-heading', '.askbox-label'].flatMap((place) =>
    [...page.querySelectorAll<HTMLElement>(place)]
      .filter((node) => node.scrollWidth > node.clientWidth + 1 || node.getBoundingClientRect().right > room.right + 1)
      .slice(0, 1)
      .map((node) => ({ place, width, words: node.textContent?.trim() ?? '' })),
  )
}

function shown(frame: HTMLIFrameElement, html: string): Promise<void> {
  return new Promise((resolve) => {
    frame.addEventListener('load', () => resolve(), { once: true })
    frame.srcdoc = html
  })
}

function inWorker(wish: BehindWish): Promise<BehindAnswer> {
  const worker = new Worker(new URL('../workers/behind.ts', import.meta.url), { type: 'module' })
  return new Promise<BehindAnswer>((resolve) => {
    worker.addEventListener('message', (event: MessageEvent<BehindAnswer>) => resolve(event.data))
    worker.addEventListener('error', () => resolve([]))
    worker.postMessage(wish)
  }).finally(() => worker.terminate())
}
