import { type FormContent, isBox, richWordKeys } from '#core/form'
import { bytesIn, HEAVY_PICTURE_BYTES, type Picture } from '#core/picture'
import { linksIn } from '#core/text'
import type { Finding } from './finding'

/** What is missing or broken. */
export function brokenFindings(
  content: FormContent,
  pictures: readonly Picture[],
  videoHosts: readonly string[] | null,
): Finding[] {
  const { words, illustration, video, page } = content
  const links = [
    ...richWordKeys.flatMap((key) => linksIn(words[key]).map((link) => ({ link, selector: `.askbox-${key}` }))),
    ...content.fields.flatMap((field) =>
      isBox(field) ? linksIn(field.wording).map((link) => ({ link, selector: `.askbox-field-${field.key}` })) : [],
    ),
  ]
  const shown = [illustration?.picture, illustration?.phonePicture, page.sharePicture, page.icon].filter(
    (use) => use !== null && use !== undefined,
  )
  const findings: (Finding | false)[] = [
    words.button.trim() === '' && {
      station: 'form',
      code: 'button-empty',
      weight: 'stops',
      message: 'The button says nothing.',
      selector: '.askbox-button',
      source: 'WCAG 2.2, 4.1.2 Name, Role, Value',
    },
    illustration !== null &&
      !illustration.isDecoration &&
      illustration.alternative.trim() === '' && {
        station: 'form',
        code: 'alternative-missing',
        weight: 'fault',
        message: 'The picture has no words for people who cannot see it.',
        source: 'WCAG 2.2, 1.1.1 Non-text Content',
        selector: '.askbox-picture',
        mend: {
          name: 'Mark the picture as decoration',
          apply: (changed) => ({
            ...changed,
            illustration: changed.illustration && { ...changed.illustration, isDecoration: true },
          }),
        },
      },
    ...shown.map((use): Finding | false => {
      const picture = pictures.find(({ id }) => id === use.id)
      if (picture === undefined)
        return {
          station: 'form',
          code: 'picture-missing',
          weight: 'stops',
          message: 'A picture of the form is not in this browser any more. Choose it again.',
          selector: '.askbox-picture',
          about: use.id,
        }
      const weight = bytesIn(picture.bytes)
      return (
        weight > HEAVY_PICTURE_BYTES && {
          station: 'form',
          code: 'picture-heavy',
          weight: 'hint',
          message: `The picture “${picture.name}” weighs ${Math.round(weight / 1000)} KB; above ${HEAVY_PICTURE_BYTES / 1000} KB, visitors on phones wait for it.`,
          selector: '.askbox-picture',
          about: use.id,
        }
      )
    }),
    video !== null &&
      video.title.trim() === '' && {
        station: 'form',
        code: 'video-title',
        weight: 'fault',
        message: 'The video has no title, so screen readers cannot say what it is.',
        source: 'WCAG 2.2, 4.1.2 Name, Role, Value',
        selector: '.askbox-video',
      },
    video !== null &&
      videoHosts !== null &&
      !videoHosts.includes(new URL(video.address).host) && {
        station: 'form',
        code: 'video-host',
        weight: 'stops',
        message: `Videos of ${new URL(video.address).host} are not allowed on your forms. Allow them under Words, or take the video off.`,
        selector: '.askbox-video',
      },
    ...links
      .filter(({ link }) => /^http:/i.test(link))
      .map(({ link, selector }): Finding => ({
        station: 'form',
        code: 'link-insecure',
        weight: 'fault',
        message: `A link goes to ${link} without encryption.`,
        about: link,
        selector,
        mend: {
          name: 'Make the link https',
          apply: (changed) => withLinks(changed, (one) => (one === link ? one.replace(/^http:/i, 'https:') : one)),
        },
      })),
  ]
  return findings.filter((finding) => finding !== false)
}

function withLinks(content: FormContent, change: (link: string) => string): FormContent {
  const follow = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(follow)
    if (value === null || typeof value !== 'object') return value
    return Object.fromEntries(
      Object.entries(value).map(([key, inner]) => [
        key,
        key === 'link' && typeof inner === 'string' ? change(inner) : follow(inner),
      ]),
    )
  }
  return {
    ...content,
    words: follow(content.words) as FormContent['words'],
    fields: follow(content.fields) as FormContent['fields'],
  }
}
