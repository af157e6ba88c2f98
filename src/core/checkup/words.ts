import { type Field, fieldChanged, fieldTitle, type FormContent, isAutofillToken, richWordKeys } from '#core/form'
import { columnsOf, type List } from '#core/list'
import { bytesIn, HEAVY_PICTURE_BYTES, type Picture } from '#core/picture'
import { linksIn, plainText } from '#core/text'
import type { Finding } from './finding'
import type { Measures } from './measures'

/** Labels, autofill, errors, sizes and order: whether everybody can fill it in. */
export function askingFindings(content: FormContent, list: List | null): Finding[] {
  const columns = new Set(list === null ? [] : columnsOf(list).map(({ key }) => key))
  return content.fields.flatMap((field): Finding[] => {
    if (field.kind === 'hidden') return []
    const about = field.key
    const place = `.askbox-field-${field.key}`
    const title = fieldTitle(field)
    const at = { station: 'form' as const, about, place }
    const findings: (Finding | false)[] = [
      field.kind !== 'consent' &&
        field.label.trim() === '' && {
          ...at,
          code: 'label-empty',
          weight: 'stops',
          message: 'A field has no label, so screen readers cannot say what it asks.',
          source: 'WCAG 2.2, 3.3.2 Labels or Instructions; 4.1.2 Name, Role, Value',
        },
      field.kind === 'consent' && plainText(field.wording).trim() === '' && { ...at, code: 'consent-empty', weight: 'stops', message: 'A consent box has no words: nobody knows what they agree to.' },
      !field.labelShown &&
        field.placeholder.trim() === '' && {
          ...at,
          code: 'label-hidden',
          weight: 'fault',
          message: `“${title}” shows neither label nor example, so people who see the form do not know what it asks.`,
          source: 'WCAG 2.2, 3.3.2 Labels or Instructions',
          mend: changeField('Show the label', field, { labelShown: true }),
        },
      field.autofill !== '' &&
        !isAutofillToken(field.autofill) && {
          ...at,
          code: 'autofill-unknown',
          weight: 'fault',
          message: `“${field.autofill}” is no autofill token of the HTML standard.`,
          source: 'WCAG 2.2, 1.3.5 Identify Input Purpose',
          mend: changeField('Take the usual autofill', field, { autofill: '' }),
        },
      field.autofill === 'off' &&
        ['email', 'first-name', 'last-name', 'full-name', 'phone', 'website', 'birthday', 'address'].includes(field.kind) && {
          ...at,
          code: 'autofill-off',
          weight: 'fault',
          message: `Browsers may not fill in “${title}”, so everybody has to type it.`,
          source: 'WCAG 2.2, 1.3.5 Identify Input Purpose',
          mend: changeField('Let browsers fill it in', field, { autofill: '' }),
        },
      field.error.trim() !== '' &&
        field.error.trim().length < 8 && { ...at, code: 'error-short', weight: 'hint', message: `The error of “${title}” says too little to put it right: “${field.error.trim()}”.`, source: 'WCAG 2.2, 3.3.1 Error Identification; 3.3.3 Error Suggestion' },
      (field.kind === 'choose-one' || field.kind === 'choose-several' || field.kind === 'topics') &&
        field.choices.some(({ label }) => label.trim() === '') && { ...at, code: 'choice-empty', weight: 'stops', message: `“${title}” offers a choice without words.` },
      field.kind !== 'topics' &&
        field.kind !== 'consent' &&
        field.column === '' && {
          ...at,
          code: 'no-column',
          weight: 'fault',
          message: `“${title}” is asked, but no column of the list keeps the answer.`,
          reason: 'Ask only what will be used: every question costs sign-ups.',
        },
      list !== null && field.column !== '' && !columns.has(field.column) && { ...at, station: 'list', code: 'column-missing', weight: 'stops', message: `“${title}” fills the column “${field.column}”, which the list does not have.` },
      field.required &&
        field.kind !== 'email' &&
        field.kind !== 'consent' && {
          ...at,
          code: 'required-needless',
          weight: 'hint',
          message: `“${title}” must be answered. Does the list need it from everybody?`,
          reason: 'Every question that has to be answered turns some people away (common practice, no published source).',
          mend: changeField('Make it optional', field, { required: false }),
        },
      field.kind === 'number' &&
        field.least !== null &&
        field.most !== null &&
        field.least > field.most && { ...at, code: 'number-range', weight: 'stops', message: `“${title}” takes no number at all: its least is above its most.` },
    ]
    return findings.filter((finding) => finding !== false)
  })
}

/** Sizes and order, from the look. */
export function lookFindings(content: FormContent): Finding[] {
  const { look, fields } = content
  const hasBoxes = fields.some((field) => field.kind === 'consent' || field.kind === 'topics' || field.kind === 'choose-several' || (field.kind === 'choose-one' && field.shownAs === 'buttons'))
  // A box is 1.5 em of the form's text.
  const box = 24 * (look.type.size / 100)
  const reorders = look.custom.rules.some(({ declarations }) => declarations.some(({ property, value }) => property === 'order' || /-reverse/.test(value)))
  const findings: (Finding | false)[] = [
    hasBoxes &&
      box < 24 && {
        station: 'form',
        code: 'target-small',
        weight: 'fault',
        message: `Boxes to tick are ${box} px wide; they need 24.`,
        reason: 'Small targets are missed by unsteady hands and thumbs.',
        source: 'WCAG 2.2, 2.5.8 Target Size (Minimum)',
        place: '.askbox-box',
        mend: { name: 'Enlarge the text', apply: (changed) => ({ ...changed, look: { ...changed.look, type: { ...changed.look.type, size: 100 } } }) },
      },
    reorders && {
      station: 'form',
      code: 'order-changed',
      weight: 'fault',
      message: 'Your own CSS shows things in another order than they are read out and reached by keyboard.',
      source: 'WCAG 2.2, 1.3.2 Meaningful Sequence; 2.4.3 Focus Order',
    },
  ]
  return findings.filter((finding) => finding !== false)
}

/** What the rendering showed: words that do not fit. */
export function fitFindings({ overflows }: Measures): Finding[] {
  const names: Record<string, string> = { '.askbox-button': 'The button', '.askbox-heading': 'The heading', '.askbox-label': 'A label' }
  return overflows.map(({ place, width, words }) => ({
    station: 'form',
    code: 'overflow',
    weight: 'fault',
    message: `${names[place] ?? 'A part'} does not fit at ${width} px: “${words.length > 40 ? `${words.slice(0, 39)}…` : words}”.`,
    reason: 'What runs out of its place is cut off, or makes the page scroll sideways.',
    source: 'WCAG 2.2, 1.4.10 Reflow',
    place,
    about: `${place} ${width}`,
  }))
}

/** The offer and the consent. Hints where a machine can only guess. */
export function offerFindings({ words, fields, language }: FormContent): Finding[] {
  const offer = [words.heading, plainText(words.introduction), plainText(words.points), plainText(words.note), plainText(words.small)].join(' ')
  const consents = fields.filter((field) => field.kind === 'consent')
  const findings: (Finding | false)[] = [
    // Only English is read for it: of other languages nothing is claimed.
    language === 'en' &&
      !/\b(daily|weekly|monthly|yearly|quarterly|fridays?|mondays?|tuesdays?|wednesdays?|thursdays?|saturdays?|sundays?|once|twice|every|each|month|week|year|when|first|before|free|guide|chart|print|pdf|download|offer|discount|dates?|news|learn|hear|know|tell)\b/i.test(offer) && {
        station: 'form',
        code: 'offer-vague',
        weight: 'hint',
        message: 'The words name no benefit, no rhythm and no gift. What does somebody get, and how often?',
        reason: 'People join for something (common practice, no published source). Only you know whether it is said.',
        place: '.askbox-introduction',
      },
    ...consents.map(
      (field): Finding | false =>
        linksIn(field.wording).length === 0 && {
          station: 'form',
          code: 'consent-no-link',
          weight: 'hint',
          message: 'The consent box links to no page that says how addresses are kept.',
          reason: 'Consent is to be informed (in the European Union: Regulation 2016/679, articles 4(11) and 13).',
          about: field.key,
          place: `.askbox-field-${field.key}`,
        },
    ),
    ...consents.map(
      (field): Finding | false =>
        plainText(field.wording).trim().length > 0 &&
        plainText(field.wording).trim().split(/\s+/).length < 4 && {
          station: 'form',
          code: 'consent-no-purpose',
          weight: 'hint',
          message: `“${plainText(field.wording).trim()}” does not say what for.`,
          reason: 'Consent is given for a purpose that is named (in the European Union: Regulation 2016/679, article 4(11)).',
          about: field.key,
          place: `.askbox-field-${field.key}`,
        },
    ),
  ]
  return findings.filter((finding) => finding !== false)
}

/** What is missing or broken. */
export function brokenFindings(content: FormContent, pictures: readonly Picture[], videoHosts: readonly string[] | null): Finding[] {
  const { words, illustration, video, page } = content
  const links = [...richWordKeys.flatMap((key) => linksIn(words[key]).map((link) => ({ link, place: `.askbox-${key}` }))), ...content.fields.flatMap((field) => (field.kind === 'consent' ? linksIn(field.wording).map((link) => ({ link, place: `.askbox-field-${field.key}` })) : []))]
  const shown = [illustration?.picture, illustration?.phonePicture, page.sharePicture, page.icon].filter((use) => use !== null && use !== undefined)
  const findings: (Finding | false)[] = [
    words.button.trim() === '' && { station: 'form', code: 'button-empty', weight: 'stops', message: 'The button says nothing.', place: '.askbox-button', source: 'WCAG 2.2, 4.1.2 Name, Role, Value' },
    illustration !== null &&
      !illustration.isDecoration &&
      illustration.alternative.trim() === '' && {
        station: 'form',
        code: 'alternative-missing',
        weight: 'fault',
        message: 'The picture has no words for people who cannot see it.',
        source: 'WCAG 2.2, 1.1.1 Non-text Content',
        place: '.askbox-picture',
        mend: { name: 'Mark the picture as decoration', apply: (changed) => ({ ...changed, illustration: changed.illustration && { ...changed.illustration, isDecoration: true } }) },
      },
    ...shown.map((use): Finding | false => {
      const kept = pictures.find(({ id }) => id === use.id)
      if (kept === undefined) return { station: 'form', code: 'picture-missing', weight: 'stops', message: 'A picture of the form is not in this browser any more. Choose it again.', place: '.askbox-picture', about: use.id }
      const weight = bytesIn(kept.bytes)
      return (
        weight > HEAVY_PICTURE_BYTES && {
          station: 'form',
          code: 'picture-heavy',
          weight: 'hint',
          message: `The picture “${kept.name}” weighs ${Math.round(weight / 1000)} KB; above ${HEAVY_PICTURE_BYTES / 1000} KB, visitors on phones wait for it.`,
          place: '.askbox-picture',
          about: use.id,
        }
      )
    }),
    video !== null && video.title.trim() === '' && { station: 'form', code: 'video-title', weight: 'fault', message: 'The video has no title, so screen readers cannot say what it is.', source: 'WCAG 2.2, 4.1.2 Name, Role, Value', place: '.askbox-video' },
    video !== null && videoHosts !== null && !videoHosts.includes(new URL(video.address).host) && { station: 'form', code: 'video-host', weight: 'stops', message: `Videos of ${new URL(video.address).host} are not allowed on your forms. Allow them under Words, or take the video off.`, place: '.askbox-video' },
    ...links
      .filter(({ link }) => /^http:/i.test(link))
      .map(({ link, place }): Finding => ({
        station: 'form',
        code: 'link-insecure',
        weight: 'fault',
        message: `A link goes to ${link} without encryption.`,
        about: link,
        place,
        mend: { name: 'Make the link https', apply: (changed) => withLinks(changed, (one) => (one === link ? one.replace(/^http:/i, 'https:') : one)) },
      })),
  ]
  return findings.filter((finding) => finding !== false)
}

function changeField(name: string, field: Field, changes: Partial<Field>) {
  return { name, apply: (content: FormContent): FormContent => ({ ...content, fields: fieldChanged(content.fields, field.key, changes) }) }
}

function withLinks(content: FormContent, change: (link: string) => string): FormContent {
  const follow = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(follow)
    if (value === null || typeof value !== 'object') return value
    return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, key === 'link' && typeof inner === 'string' ? change(inner) : follow(inner)]))
  }
  return { ...content, words: follow(content.words) as FormContent['words'], fields: follow(content.fields) as FormContent['fields'] }
}
