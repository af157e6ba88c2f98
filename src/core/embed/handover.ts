import type { Version } from '#core/form'
import { type Element, element, documentOf, toDocument } from '#core/render'
import { profileOf, type Site } from '#core/site'
import { type Spot, spotKinds } from '#core/spot'
import { codeOf } from './advice'
import { codeAs } from './code-as'
import { plainCode } from './plain'
import type { PlaceHeights } from './heights'
import { sharedLine } from './script'
import { headStep, pasteSteps } from './steps'

/** A spot of the site with all that its code is made from. */
export interface HandedSpot {
  spot: Spot
  formName: string
  version: Version
  /** Measured where the form was drawn; null where it was not. */
  heights: PlaceHeights | null
}

/** One piece of code: what it is, and where it goes. */
export interface HandoverPiece {
  title: string
  where: string
  steps: string[]
  code: string
}

/** Every piece of code that a site needs, the shared line first and once. */
export function piecesOf(
  site: Site,
  spots: readonly HandedSpot[],
  receiver: string,
  inTags: (placed: Parameters<typeof plainCode>[0]) => string = plainCode,
): HandoverPiece[] {
  const live = spots.filter(({ spot }) => spot.state === 'live')
  const needsLine = live.some(({ spot }) => spot.kind !== 'pop-up' && ['script', 'rule'].includes(codeOf(spot, site)))
  const pasted = live.filter(({ spot }) => codeOf(spot, site) !== 'rule')
  const permits = profileOf(site)
  return [
    ...(needsLine && permits.siteHead
      ? [
          {
            title: 'The shared line',
            where: 'Once for the whole site, in the head of every page',
            steps: [headStep(site.kind, 'site'), 'Paste the line there, once. Twice does no harm.'],
            code: sharedLine(receiver),
          },
        ]
      : []),
    // By rule nothing is pasted but the line.
    ...pasted.map((one): HandoverPiece => {
      const { spot, formName } = one
      const kind = spotKinds.find((known) => known.kind === spot.kind)?.name ?? spot.kind
      return {
        title: `${kind}: ${formName}`,
        where: spot.page === '' ? site.address : spot.page,
        steps:
          spot.kind === 'landing'
            ? ['Link to the page from wherever it should be found. Nothing is pasted.']
            : pasteSteps(site, spot.kind, codeOf(spot, site)),
        code: pieceFor({ site, one, receiver, bringsLine: needsLine && !permits.siteHead, inTags }),
      }
    }),
  ]
}

function pieceFor({
  site,
  one,
  receiver,
  bringsLine,
  inTags,
}: {
  site: Site
  one: HandedSpot
  receiver: string
  bringsLine: boolean
  inTags: (placed: Parameters<typeof plainCode>[0]) => string
}): string {
  const { spot, formName } = one
  const code = codeOf(spot, site)
  const line = code === 'script' && spot.kind !== 'pop-up' && bringsLine ? sharedLine(receiver) : ''
  return line + codeAs(code, { ...one, title: formName }, receiver, inTags)
}

/** All pieces and steps of a site as one page that works from a disk, for whoever looks after the site. */
export function handoverFile(site: Site, pieces: readonly HandoverPiece[]): string {
  const part = ({ title, where, steps, code }: HandoverPiece): Element =>
    element(
      'section',
      {},
      element('h2', {}, title),
      element('p', {}, where),
      element('ol', {}, ...steps.map((step) => element('li', {}, step))),
      element('pre', { tabindex: '0' }, code),
    )
  return toDocument(
    documentOf({
      title: `Forms on ${site.name}`,
      css: 'body{max-width:52rem;margin:2rem auto;padding:0 1.25rem;font:16px/1.6 system-ui,sans-serif;color:#222;background:#fff}h1{line-height:1.2}section{margin-top:2.5rem;border-top:1px solid #bbb}pre{max-height:24rem;padding:1rem;overflow:auto;background:#f2f1ed;white-space:pre-wrap;overflow-wrap:anywhere}:focus-visible{outline:3px solid;outline-offset:2px}',
      body: [
        element(
          'main',
          {},
          element('h1', {}, `Forms on ${site.name}`),
          element(
            'p',
            {},
            'Each part goes to the place that is named above it. Copy it as it stands, from its first character to its last.',
          ),
          ...(pieces.length === 0 ? [element('p', {}, 'There is nothing to paste.')] : pieces.map(part)),
        ),
      ],
    }),
  )
}
