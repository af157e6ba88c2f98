import type { Version } from '#core/form'
import { landingPage, type LandingOptions, type PlacedForm, toDocument } from '#core/render'
import { addressProblem, type Site } from '#core/site'
import type { Spot } from '#core/spot'
import { pageAddress } from './link'

/** Where the receiver hands out a spot's page as a file. */
export function fileAddress(receiver: string, spot: string): string {
  return `${receiver}/file/${spot}`
}

/** What a file of the page is called, up to its ending. */
export function fileName({ slug, id }: Pick<Spot, 'slug' | 'id'>): string {
  return slug ?? `page-${id}`
}

/**
 * A spot's page as one file that needs nothing beside it: pictures are in it, words are set in the fonts of the computer,
 * and it sends to the receiver without a script. It works from a disk as well.
 *
 * @param pictureData a picture as a `data:` address; undefined for one that is not at hand
 */
export function pageFile(
  {
    spot,
    version,
    site,
    receiver,
  }: {
    spot: Spot
    version: Pick<Version, 'form' | 'number' | 'content'>
    site: Pick<Site, 'name' | 'address' | 'privacy'> | null
    receiver: string
  },
  pictureData: (id: string) => string | undefined,
): string {
  const { content } = version
  const { type } = content.look
  const placed: PlacedForm = {
    content:
      type.font === 'shipped'
        ? { ...content, look: { ...content.look, type: { ...type, font: 'humanist' } } }
        : content,
    form: spot.form,
    version: version.number,
    spot: spot.id,
    receiver,
    pictureAddress: ({ id }) => pictureData(id) ?? `${receiver}/picture/${id}`,
  }
  const options: LandingOptions = {
    address: pageAddress(receiver, spot.slug ?? spot.id),
    site: site !== null && addressProblem(site.address) === null ? { name: site.name, address: site.address } : null,
    privacy: site?.privacy && addressProblem(site.privacy) === null ? site.privacy : null,
    withScript: false,
  }
  return toDocument(landingPage(placed, undefined, options))
}
