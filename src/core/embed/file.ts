import { landingPage, type LandingOptions, type PlacedForm, toDocument } from '#core/render'

/**
 * A spot's page as one file that needs nothing beside it: pictures are in it, words are set in the fonts of the computer,
 * and it sends to the receiver without a script. It works from a disk as well.
 *
 * @param pictureData a picture as a `data:` address; undefined for one that is not at hand
 */
export function pageFile(
  placed: PlacedForm,
  pictureData: (id: string) => string | undefined,
  more: Pick<LandingOptions, 'address' | 'site' | 'privacy'> = {},
): string {
  const { content } = placed
  return toDocument(
    landingPage(
      {
        ...placed,
        content:
          content.look.type.font === 'shipped'
            ? { ...content, look: { ...content.look, type: { ...content.look.type, font: 'humanist' } } }
            : content,
        pictureAddress: ({ id }) => pictureData(id) ?? `${placed.receiver}/picture/${id}`,
      },
      undefined,
      { ...more, withScript: false },
    ),
  )
}
