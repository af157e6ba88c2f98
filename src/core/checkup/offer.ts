import { sameValue } from '#core/json'
import {
  foreignSamples,
  type FormContent,
  openedWords,
  shapeOf,
  untouchedSamples,
  type WordKey,
  wordNames,
} from '#core/form'
import { handsOver, type MailSettings } from '#core/mail'
import { linksIn, plainText } from '#core/text'
import { languageNames } from '#core/texts'
import type { Finding } from './finding'

/** English words for a gift that is had at once, as opposed to a newsletter (from memory). */
const GIFTS =
  /\b(guide|checklist|workbook|e-?book|pdf|printable \w+|download|voucher|template|free (?:copy|chapter|chart|map|sample))\b/i

/** The offer and the consent. Hints where a machine can only guess. */
export function offerFindings(content: FormContent, mail: MailSettings | null = null): Finding[] {
  const { words, fields, language, answers } = content
  const samples = untouchedSamples(content)
  const foreign = foreignSamples(content)
  const claims = samples.filter((key) => shapeOf(content.shape)?.claims.includes(key) && !foreign.includes(key))
  /** Of these, what the form can do without. */
  const taken = claims.filter((key) => key !== 'heading' && key !== 'button')
  const offer = [
    words.heading,
    plainText(words.introduction),
    plainText(words.points),
    plainText(words.note),
    plainText(words.small),
  ].join(' ')
  const consents = fields.filter((field) => field.kind === 'consent')
  const promised =
    language === 'en' ? GIFTS.exec([words.heading, plainText(words.introduction), words.button].join(' ')) : null
  const { show, message } = answers.joined
  const unwritten = (Object.keys(openedWords) as (keyof typeof openedWords)[]).filter(
    (key) => key !== 'quoteBy' && sameValue(words[key], openedWords[key]),
  )
  const findings: (Finding | false)[] = [
    unwritten.length > 0 && {
      station: 'form',
      code: 'words-unwritten',
      weight: 'fault',
      message: `Still to be written: ${named(unwritten)}.`,
      selector: `.askbox-${unwritten[0]}`,
      mend: {
        name: 'Take off what is not written',
        apply: (changed) => ({
          ...changed,
          words: {
            ...changed.words,
            ...Object.fromEntries(unwritten.map((key) => [key, key === 'heading' ? '' : []])),
          },
        }),
      },
    },
    samples.includes('quote') && {
      station: 'form',
      code: 'quote-sample',
      weight: 'fault',
      message: 'Nobody said this: the reader’s words are still the sample’s.',
      reason: 'Made-up praise misleads people, and in the European Union it is forbidden.',
      source: 'Directive 2005/29/EC, annex I, point 23c',
      selector: '.askbox-quote',
      mend: {
        name: 'Take the reader’s words off',
        apply: (changed) => ({ ...changed, words: { ...changed.words, quote: [], quoteBy: '' } }),
      },
    },
    foreign.length > 0 && {
      station: 'form',
      code: 'words-foreign',
      weight: 'fault',
      message: `The form speaks ${languageNames[language]}; still in English: ${named(foreign)}.`,
      reason: 'Screen readers read it out as if it were the form’s own language.',
      source: 'WCAG 2.2, 3.1.2 Language of Parts',
      selector: `.askbox-${foreign[0]}`,
    },
    claims.length > 0 && {
      station: 'form',
      code: 'words-sample',
      weight: 'hint',
      message: `Still the sample’s: ${named(claims)}. It promises in your name: is all of it true of you?`,
      selector: `.askbox-${claims[0]}`,
      ...(taken.length === claims.length && {
        mend: {
          name: taken.length === 1 ? 'Take it off' : 'Take them off',
          apply: (changed) => ({
            ...changed,
            words: { ...changed.words, ...Object.fromEntries(taken.map((key) => [key, []])) },
          }),
        },
      }),
    },
    promised !== null &&
      !(mail !== null && handsOver(mail)) &&
      show === 'message' &&
      !/https?:/i.test(message) && {
        station: 'answer',
        code: 'gift-not-given',
        weight: 'hint',
        message: `The form promises “${promised[0]}”, and nothing after the button gives it.`,
        reason:
          'Who joined for a gift looks for it at once. Give it at the Mail station, or send people on to the page that has it.',
        about: 'joined',
      },
    // Only English is read for it: of other languages nothing is claimed.
    language === 'en' &&
      !/\b(daily|weekly|monthly|yearly|quarterly|fridays?|mondays?|tuesdays?|wednesdays?|thursdays?|saturdays?|sundays?|once|twice|every|each|month|week|year|when|first|before|free|guide|chart|print|pdf|download|offer|discount|dates?|news|learn|hear|know|tell)\b/i.test(
        offer,
      ) && {
        station: 'form',
        code: 'offer-vague',
        weight: 'hint',
        message: 'The words name no benefit, no rhythm and no gift. What does somebody get, and how often?',
        reason: 'People join for something. Only you know whether it is said.',
        selector: '.askbox-introduction',
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
          selector: `.askbox-field-${field.key}`,
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
          reason:
            'Consent is given for a purpose that is named (in the European Union: Regulation 2016/679, article 4(11)).',
          about: field.key,
          selector: `.askbox-field-${field.key}`,
        },
    ),
  ]
  return findings.filter((finding) => finding !== false)
}

function named(places: readonly WordKey[]): string {
  return places.map((key) => wordNames[key].toLowerCase()).join(', ')
}
