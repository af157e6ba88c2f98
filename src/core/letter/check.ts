import { contrast } from '#core/look'
import { type MailSettings, mailProblems } from '#core/mail'
import { FOLLOWABLE_LINK, linksIn, plainText, saysNothing, type Span } from '#core/text'
import { allBlocks, type LetterBlock, type LetterBody, textsIn } from './letter'

/** Above this, large webmail shows only the beginning (common practice, no published source). */
const MOST_HTML_BYTES = 100 * 1024
/** Above this a picture keeps readers on phones waiting (common practice, no published source). */
const HEAVY_BYTES = 200_000
/** Inboxes on phones show about so many letters of a subject (common practice, no published source). */
const LONG_SUBJECT = 60

export interface LetterFinding {
  code: string
  /** `stops`: it cannot go like this. `look`: it can, and its owner may want to mend it. */
  weight: 'stops' | 'look'
  /** The block that it is about, or `subject`; missing for the whole. */
  block?: string
  message: string
  reason: string
}

export interface LetterSubject {
  body: LetterBody
  /** Mail of the letter's first list as it is sent; null where the list sends none yet. */
  settings: MailSettings | null
  /** Bytes of the owner's pictures in it, by id, as far as they are known. */
  pictureBytes: ReadonlyMap<string, number>
  /** Bytes of its HTML for one reader; 0 for plain text. */
  htmlBytes: number
  /** Its plain part without the end that every letter has. */
  plain: string
}

const stop = (code: string, message: string, reason: string, block?: string): LetterFinding => ({
  ...{ code, weight: 'stops', message, reason },
  ...(block !== undefined && { block }),
})
const look = (code: string, message: string, reason: string, block?: string): LetterFinding => ({
  ...stop(code, message, reason, block),
  weight: 'look',
})

/** What is wrong with a letter before it goes to anybody, as far as it can be told without asking the network. */
export function letterFindings(subject: LetterSubject): LetterFinding[] {
  const { body } = subject
  return [
    ...senderFindings(subject),
    ...subjectFindings(body),
    ...placeholderFindings(body),
    ...(body.isPlain ? [] : allBlocks(body.blocks).flatMap((block) => blockFindings(block, subject))),
    ...wordFindings(subject),
    ...weightFindings(subject),
  ]
}

function senderFindings({ settings, body }: LetterSubject): LetterFinding[] {
  if (settings === null)
    return [
      stop(
        'no-mail',
        'The list sends no mail yet.',
        'Set its sender up at the station Mail of one of its forms, and publish it.',
      ),
    ]
  const about = mailProblems({ ...settings, notice: { when: 'each', address: 'owner@post.example' } }).filter(
    (problem) => problem.about === 'sender' || (problem.about === 'colours' && !body.isPlain),
  )
  return about.map(({ code, message, reason, stops }) => (stops ? stop : look)(code, message, reason))
}

function subjectFindings({ subject }: LetterBody): LetterFinding[] {
  const words = plainText(subject).trim()
  if (words === '' && !subject.some((block) => block.kind === 'paragraph' && block.spans.length > 0))
    return [stop('no-subject', 'The letter has no subject.', 'People decide by it whether they open it.', 'subject')]
  return [
    ...(words.length > LONG_SUBJECT
      ? [
          look(
            'long-subject',
            `The subject has ${words.length} letters.`,
            `Inboxes on phones show about ${LONG_SUBJECT}; put what matters first.`,
            'subject',
          ),
        ]
      : []),
    ...(shouts(words)
      ? [
          look(
            'shouts',
            'The subject shouts.',
            'Capitals and rows of ! look like spam, to people and filters.',
            'subject',
          ),
        ]
      : []),
  ]
}

/** As people write placeholders elsewhere, by brackets of some kind: here they are put in whole. */
const LOOKS_LIKE_PLACEHOLDER = /\{{1,2}[\w .|-]{2,40}\}{1,2}|\[\[?[A-Za-z_]{2,30}\]\]?|%[A-Z_]{3,30}%|\*\|\w{2,30}\|\*/

function placeholderFindings(body: LetterBody): LetterFinding[] {
  return textsIn(body).flatMap(({ block, text }) => {
    const spans = text.flatMap((part): Span[] => (part.kind === 'paragraph' ? part.spans : part.items.flat()))
    const typed = spans
      .filter(({ placeholder }) => placeholder === undefined)
      .map((span) => LOOKS_LIKE_PLACEHOLDER.exec(span.text)?.[0])
      .find((found) => found !== undefined)
    const lacksFallback = spans.some(({ placeholder, text }) => placeholder === 'first-name' && text.trim() === '')
    return [
      ...(typed === undefined
        ? []
        : [
            look(
              'typed-placeholder',
              `“${typed}” is typed, and stays as it is.`,
              'Use “Put in …” for a name: it cannot be broken by typing.',
              block,
            ),
          ]),
      ...(lacksFallback
        ? [
            look(
              'no-fallback',
              'A first name has nothing that stands for it.',
              'Not everybody told one. Take it out and put it in again, with a word for where none is known.',
              block,
            ),
          ]
        : []),
    ]
  })
}

function blockFindings(block: LetterBlock, { pictureBytes, settings }: LetterSubject): LetterFinding[] {
  switch (block.kind) {
    case 'picture': {
      const isThere = block.picture !== null || FOLLOWABLE_LINK.test(block.address.trim())
      if (!isThere) return [stop('no-picture', 'A picture is not chosen yet.', 'Readers would see a gap.', block.id)]
      const bytes = block.picture === null ? 0 : (pictureBytes.get(block.picture.id) ?? 0)
      return [
        ...(block.alt.trim() === ''
          ? [
              look(
                'no-alt',
                'A picture has no words for who does not see it.',
                'Many programs show pictures only after a press (WCAG 2.2, success criterion 1.1.1).',
                block.id,
              ),
            ]
          : []),
        ...(bytes > HEAVY_BYTES
          ? [
              look(
                'heavy-picture',
                `A picture has ${Math.round(bytes / 1000)} KB.`,
                'Above 200 KB readers on phones wait for it (common practice).',
                block.id,
              ),
            ]
          : []),
        ...(/^http:/i.test(block.address.trim())
          ? [look('unsafe-picture', 'A picture comes by http.', 'Many programs show only https.', block.id)]
          : []),
        ...linkFindings(block.link, block.id, false),
      ]
    }
    case 'button':
      return [
        ...(block.words.trim() === ''
          ? [stop('no-words', 'A button has no words.', 'Nobody knows what it does.', block.id)]
          : []),
        ...linkFindings(block.link, block.id, true),
        ...(settings !== null && contrast(settings.colours.button, settings.colours.ground) < 1.5
          ? [
              look(
                'button-contrast',
                'The button has nearly the colour of what it stands on.',
                'It is overlooked.',
                block.id,
              ),
            ]
          : []),
      ]
    case 'offer':
      return block.spot === null
        ? [stop('no-form', 'A form’s offer leads to no form yet.', 'Choose whose page it opens.', block.id)]
        : []
    default:
      return []
  }
}

function linkFindings(link: string, block: string, isNeeded: boolean): LetterFinding[] {
  if (link.trim() === '')
    return isNeeded
      ? [stop('no-link', 'A button leads nowhere yet.', 'Nothing happens when it is pressed.', block)]
      : []
  return FOLLOWABLE_LINK.test(link.trim())
    ? []
    : [
        stop(
          'wrong-link',
          `“${link.trim().slice(0, 60)}” is no address.`,
          'Begin with https://, mailto: or tel:.',
          block,
        ),
      ]
}

function wordFindings({ body, plain }: LetterSubject): LetterFinding[] {
  const words = allBlocks(body.blocks).flatMap((block) =>
    block.kind === 'words' || block.kind === 'offer' ? [block] : [],
  )
  if (body.blocks.length === 0 || plain.trim() === '')
    return [
      stop(
        'empty',
        body.blocks.length === 0 ? 'The letter is empty.' : 'Its plain text says nothing.',
        'Some people, and some programs, read the plain text alone.',
      ),
    ]
  const shouting = words.find(({ text }) => shouts(plainText(text)))
  return [
    ...(words.every(({ text }) => saysNothing(text) && linksIn(text).length === 0)
      ? [look('pictures-only', 'The letter has no words but its pictures.', 'It looks like spam to filters.')]
      : []),
    ...(shouting === undefined
      ? []
      : [
          look(
            'shouts',
            'Some of it shouts.',
            'Capitals and rows of ! look like spam, to people and filters.',
            shouting.id,
          ),
        ]),
  ]
}

function weightFindings({ htmlBytes }: LetterSubject): LetterFinding[] {
  return [
    ...(htmlBytes > MOST_HTML_BYTES
      ? [
          look(
            'long',
            `The letter has ${Math.round(htmlBytes / 1024)} KB.`,
            'Above 100 KB large webmail shows only its beginning, and not how to leave (common practice).',
          ),
        ]
      : []),
  ]
}

/** Three words or more in capitals, or three ! in a row. Names of four letters or fewer may be short forms. */
function shouts(text: string): boolean {
  if (/!{3}/.test(text)) return true
  const words = text.match(/\p{L}{5,}/gu) ?? []
  const loud = words.filter((word) => word === word.toUpperCase() && word !== word.toLowerCase())
  return loud.length >= 3 || (loud.length >= 1 && loud.length === words.length && words.length <= 2)
}
