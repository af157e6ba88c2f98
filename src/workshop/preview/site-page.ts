import type { FormContent } from '#core/form'
import type { FormId, SpotId } from '#core/ids'
import { contrast, type Palette, TEXT_CONTRAST, textOn } from '#core/look'
import type { PictureUse } from '#core/picture'
import {
  element,
  landingPage,
  type Page,
  popUpCardStyles,
  type PlacedForm,
  previewPage,
  renderForm,
} from '#core/render'
import type { PopUp, SpotKind } from '#core/spot'
import { greyLines, wholePage } from './scenes'

export interface DrawnSite {
  name: string
  palette: Palette
}

export interface DrawnSpot {
  kind: SpotKind
  popUp: PopUp
}

/** Widths of the windows in which a page is drawn, and their heights, in CSS pixels. Common sizes, no published source. */
export const windows = { desk: { width: 1280, height: 800 }, phone: { width: 390, height: 740 } } as const
export type Window = keyof typeof windows

/** A drawn page of a site with a form in its place, as wide as places of that kind are. */
export function sitePage(
  { content, kind, popUp }: DrawnSpot & { content: FormContent },
  site: DrawnSite,
  shown: Window,
  pictureAddress: (picture: PictureUse) => string,
): Page {
  if (kind === 'landing')
    return wholePage(
      landingPage(placedAt('drawn', content, pictureAddress), undefined, {
        withScript: false,
        site: { name: site.name, address: '' },
      }),
    )
  return siteWith([{ id: 'drawn', content, kind, popUp }], site, shown, pictureAddress)
}

/** A spot of a site that is drawn with all of its spots. */
export interface DrawnForm extends DrawnSpot {
  id: string
  content: FormContent
}

/** A drawn page of a site with forms in their places; of each kind of place the first. Landing pages are pages of their own. */
export function siteWith(
  forms: readonly DrawnForm[],
  { name, palette }: DrawnSite,
  shown: Window,
  pictureAddress: (picture: PictureUse) => string,
): Page {
  const { background, text, accent } = palette
  const isPhone = shown === 'phone'
  const lines = (count: number) => element('div', { class: 'lines' }, ...greyLines(count, text))
  const title = (width: number) =>
    element('div', {
      style: `height:22px;width:${width}%;margin:0 0 20px;border-radius:4px;background:${text};opacity:.5`,
    })
  const at = (kind: DrawnSpot['kind']) => forms.find((one) => one.kind === kind)
  const formAt = (kind: DrawnSpot['kind']) => {
    const region = at(kind)
    return region === undefined
      ? []
      : [element('div', { class: 'place' }, renderForm(placedAt(region.id, region.content, pictureAddress)))]
  }
  const popUp = at('pop-up')
  const post = [
    title(62),
    lines(4),
    ...formAt('inline'),
    ...(at('inline') ? [lines(3)] : []),
    lines(3),
    ...formAt('after-post'),
    ...(popUp && forms.length === 1 ? [lines(5), title(40), lines(6)] : []),
  ]
  const css = [
    `body{min-height:${windows[shown].height}px;background:${background};color:${text}}`,
    `.bar{padding:18px max(20px,calc(50% - 510px));background:${accent};color:${textOn(accent, palette)};font-weight:600}`,
    `.columns{display:flex;flex-wrap:wrap;justify-content:center;gap:24px 60px;padding:36px 20px}`,
    `.columns>*{flex:0 1 680px;min-width:0}`,
    // A side column comes below the text on phones, as on most sites.
    `.columns>.side{flex:0 0 ${isPhone ? '100%' : '280px'}}`,
    `.foot{padding:28px max(20px,calc(50% - 550px));border-top:1px solid color-mix(in srgb,${text} 20%,transparent)}`,
    '.lines,.place{margin:0 0 20px}',
    popUp
      ? popUpStyles(popUp.popUp, popUp.content.look.colours.background, isPhone) + popUpCardStyles(popUp.content.look)
      : '',
  ].join('')
  const cross = element('span', { class: 'close', 'aria-hidden': 'true' }, '×')
  return previewPage(
    [
      element('div', { class: 'bar' }, name),
      element(
        'div',
        { class: 'columns' },
        element('div', {}, ...post),
        at('sidebar') !== undefined && element('div', { class: 'side' }, ...formAt('sidebar'), lines(4)),
      ),
      element('div', { class: 'foot' }, ...formAt('footer'), lines(1)),
      ...(popUp
        ? [element('div', { class: 'ground' }), element('div', { class: 'over' }, cross, ...formAt('pop-up'))]
        : []),
    ],
    '0',
    css,
  )
}

function placedAt(id: string, content: FormContent, pictureAddress: (picture: PictureUse) => string): PlacedForm {
  return {
    content,
    form: 'drawn' as FormId,
    version: 1,
    spot: id as SpotId,
    receiver: '',
    pictureAddress,
    showsNoVideo: true,
  }
}

function popUpStyles({ position }: PopUp, background: string, isPhone: boolean): string {
  const window = windows[isPhone ? 'phone' : 'desk']
  const width = Math.min(position === 'middle' ? 544 : 384, window.width - 32)
  const place = {
    middle: `top:${window.height / 2}px;left:50%;transform:translate(-50%,-50%)`,
    'bottom-end': `right:16px;top:${window.height - 16}px;transform:translateY(-100%)`,
    'bottom-start': `left:16px;top:${window.height - 16}px;transform:translateY(-100%)`,
  }[position]
  return (
    `body{position:relative;height:${window.height}px;overflow:hidden}` +
    `.ground{position:absolute;inset:0;background:${position === 'middle' ? '#0009' : 'none'}}` +
    `.over{position:absolute;${place};box-sizing:border-box;width:${width}px;max-height:${window.height - 32}px;overflow:hidden;border-radius:8px;background:${background};box-shadow:0 12px 48px #0006}` +
    '.over .place{margin:0}'
  )
}

/**
 * What does not go well together there, in words for the owner.
 *
 * @param heights of the form alone, measured, in CSS pixels by width
 * @param sticksOut how far it is wider than that, likewise
 */
export function placeFindings(
  { content: { look }, kind, popUp }: DrawnSpot & { content: FormContent },
  { palette }: DrawnSite,
  heights: Record<number, number>,
  sticksOut: Record<number, number> = {},
): string[] {
  const findings: string[] = []
  for (const [width, px] of Object.entries(sticksOut))
    if (px > 0)
      findings.push(
        `It is too wide: at ${width} px, it sticks out by ${px}. Shorten its longest word, or let it be smaller.`,
      )
  if (look.ground.kind === 'none' && kind !== 'landing' && kind !== 'pop-up') {
    const reads = contrast(look.colours.text, palette.background)
    if (reads < TEXT_CONTRAST)
      findings.push(
        `Its words are lost against the site’s ground: ${reads.toFixed(1)} : 1, and ${TEXT_CONTRAST} : 1 is needed. Give the form a ground of its own, or another colour of text.`,
      )
  }
  if (kind === 'pop-up')
    for (const [width, height] of Object.entries(heights)) {
      const window = Number(width) < 480 ? windows.phone : windows.desk
      if (height > window.height - 32)
        findings.push(
          `It is ${height} px high at ${width} px, and a ${Number(width) < 480 ? 'phone' : 'window'} shows ${window.height - 32}: it has to be scrolled within the pop-up${popUp.position === 'middle' ? '' : ', and covers all of the page'}.`,
        )
    }
  else if (kind === 'sidebar') {
    const [height = 0] = Object.values(heights)
    if (height > windows.desk.height)
      findings.push(`It is ${height} px high in the side column, more than a window shows at once.`)
  }
  return findings
}
