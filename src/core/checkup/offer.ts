import type { FormContent } from '#core/form'
import { linksIn, plainText } from '#core/text'
import type { Finding } from './finding'

/** English words for what is had at once, rather than letter by letter (from memory). */
const GIFTS = /\b(guide|checklist|workbook|e-?book|pdf|printable \w+|download|voucher|template|free (?:copy|chapter|chart|map|sample))\b/i

/** The offer and the consent. Hints where a machine can only guess. */
export function offerFindings({ words, fields, language, answers }: FormContent): Finding[] {
  const offer = [words.heading, plainText(words.introduction), plainText(words.points), plainText(words.note), plainText(words.small)].join(' ')
  const consents = fields.filter((field) => field.kind === 'consent')
  const promised = language === 'en' ? GIFTS.exec([words.heading, plainText(words.introduction), words.button].join(' ')) : null
  const { show, message } = answers.joined
  const findings: (Finding | false)[] = [
    promised !== null &&
      show === 'message' &&
      !/https?:/i.test(message) && {
        station: 'answer',
        code: 'gift-not-given',
        weight: 'hint',
        message: `The form promises “${promised[0]}”, and nothing after the button gives it.`,
        reason: 'Who joined for a gift looks for it at once (common practice, no published source). Send people on to the page that has it.',
        about: 'joined',
      },
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
