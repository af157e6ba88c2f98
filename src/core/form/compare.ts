import { sameValue } from '#core/json'
import type { PictureUse } from '#core/picture'
import { plainText, type RichText } from '#core/text'
import { languageNames } from '#core/texts'
import { answerTo } from './answer'
import {
  type AnswerCase,
  answerCases,
  type FormContent,
  picturesIn,
  plainWordKeys,
  richWordKeys,
  wordNames,
} from './content'
import { type Field, fieldTitle, kindName } from './field'

/** One thing that differs between two contents, in words for the owner. Empty is "not there". */
export interface Difference {
  about: 'words' | 'fields' | 'look' | 'answers'
  what: string
  before: string
  after: string
}

/** Everything that differs, in the order of the Form station. Equal contents give an empty list. */
export function differences(before: FormContent, after: FormContent): Difference[] {
  // Pictures have no names of their own here: they are told apart by the order in which they appear.
  const pictures = [...new Set([...picturesIn(before), ...picturesIn(after)])]
  const named: NamedPicture = (use) =>
    use === null ? '' : `picture ${pictures.indexOf(use.id) + 1}, ${use.width} × ${use.height}`
  const words = [...plainWordKeys, ...richWordKeys]
    .filter((key) => !sameValue(before.words[key], after.words[key]))
    .map((key): Difference => ({
      about: 'words',
      what: wordNames[key],
      before: wordsOf(before.words[key]),
      after: wordsOf(after.words[key]),
    }))
  return [
    ...words,
    ...changed('words', 'Language', languageNames[before.language], languageNames[after.language]),
    ...parts('Text', before.texts, after.texts),
    ...parts('Picture', pictureParts(before, named), pictureParts(after, named)),
    ...parts('Video', videoParts(before), videoParts(after)),
    ...parts('Page', pageParts(before, named), pageParts(after, named)),
    ...fieldDifferences(before.fields, after.fields),
    ...lookDifferences(before.look, after.look),
    ...answerCases.flatMap((one) =>
      changed('answers', `Answer for ${answered[one]}`, answerOf(before, one), answerOf(after, one)),
    ),
    ...changed('answers', 'Seen by who signed up before', knownOf(before), knownOf(after)),
    ...changed('fields', 'Messages', messagesTo(before), messagesTo(after)),
    ...changed('fields', 'Guard', guardOf(before), guardOf(after)),
    ...changed('fields', 'Address told to the page', toldOf(before), toldOf(after)),
    ...changed('fields', 'Tags', (before.tags ?? []).join(', '), (after.tags ?? []).join(', ')),
  ]
}

type NamedPicture = (use: PictureUse | null) => string
type Parts = Partial<Record<string, string | boolean>>

/** What differs between the parts of one thing; one line when it is there on one side only. */
function parts(what: string, before: Parts, after: Parts): Difference[] {
  const all = ({ ...values }: Parts) =>
    Object.values(values)
      .filter((value) => typeof value === 'string' && value !== '')
      .join(', ')
  if (what !== 'Text' && (Object.keys(before).length === 0 || Object.keys(after).length === 0))
    return changed('words', what, all(before), all(after))
  return leaves(before, after).map(({ path, one, other }) => ({
    about: 'words',
    what: `${what}: ${path}`,
    before: one,
    after: other,
  }))
}

function changed(about: Difference['about'], what: string, before: string, after: string): Difference[] {
  return before === after ? [] : [{ about, what, before, after }]
}

function wordsOf(words: string | RichText): string {
  if (typeof words === 'string') return words
  const plain = plainText(words)
  const formats = words
    .flatMap((block) => (block.kind === 'paragraph' ? block.spans : block.items.flat()))
    .some(({ bold, italic, link }) => bold || italic || link)
  // Texts that differ in formats only still have to look different.
  return formats
    ? words
        .flatMap((block) => (block.kind === 'paragraph' ? [block.spans] : block.items))
        .map((spans) =>
          spans
            .map(
              ({ text, bold, italic, link }) =>
                `${bold ? 'bold ' : ''}${italic ? 'italic ' : ''}${bold || italic || link ? `“${text}”` : text}${link ? ` → ${link}` : ''}`,
            )
            .join(''),
        )
        .join('\n')
    : plain
}

function pictureParts({ illustration }: FormContent, named: NamedPicture): Parts {
  if (illustration === null) return {}
  const { picture, phonePicture, alternative, isDecoration, onPhones, focus } = illustration
  return {
    shown: named(picture),
    'for phones': named(phonePicture),
    'in words': alternative,
    'only decorates': isDecoration,
    'on phones': onPhones,
    'what matters in it': focus === undefined ? 'its middle' : `${focus.x}% from the left, ${focus.y}% from the top`,
  }
}

function videoParts({ video }: FormContent): Parts {
  return video === null
    ? {}
    : { address: video.address, title: video.title, proportions: `${video.width} × ${video.height}` }
}

function pageParts({ page }: FormContent, named: NamedPicture): Parts {
  return {
    title: page.title,
    description: page.description,
    'picture shared with its link': named(page.sharePicture),
    icon: named(page.icon),
  }
}

const answered: Record<AnswerCase, string> = {
  joined: 'who joined',
  'already-on-list': 'who is on the list',
  'confirm-first': 'who has to confirm',
  'already-waiting': 'who has yet to confirm',
  'message-sent': 'who sent a message and joined nothing',
  confirmed: 'who confirmed',
  'link-expired': 'a link that is used up',
  left: 'who left',
  'not-possible': 'who could not sign up',
}

function answerOf(content: FormContent, one: (typeof answerCases)[number]): string {
  const { show, heading, message, address, pass = [] } = answerTo(content, one)
  if (show === 'message') return `${heading}\n${message}`
  return `goes to ${address}${pass.length > 0 ? `, with ${pass.join(', ')}` : ''}`
}

function knownOf({ known }: FormContent): string {
  if (known === undefined) return ''
  const { heading, message, link } = known
  return [heading, message, link.address && `${link.words} → ${link.address}`].filter(Boolean).join('\n')
}

const toldOf = ({ tellsAddress }: FormContent): string => (tellsAddress ? 'yes' : '')

function messagesTo({ messages }: FormContent): string {
  return messages === undefined ? '' : `to ${messages.to.trim()}, kept for ${messages.keepDays} days`
}

function guardOf({ guard }: FormContent): string {
  if (guard === undefined) return ''
  return [
    guard.leastSeconds > 0 && `holds back who is faster than ${guard.leastSeconds} s`,
    guard.noThrowAway && 'holds back throw-away addresses',
    guard.puzzle && 'asks browsers for a puzzle',
  ]
    .filter(Boolean)
    .join(', ')
}

function fieldDifferences(before: readonly Field[], after: readonly Field[]): Difference[] {
  const order = (fields: readonly Field[], others: readonly Field[]) =>
    fields.filter(({ key }) => others.some((other) => other.key === key)).map(fieldTitle)
  return [
    ...before
      .filter(({ key }) => !after.some((field) => field.key === key))
      .map((field): Difference => ({
        about: 'fields',
        what: fieldTitle(field),
        before: kindName(field.kind),
        after: '',
      })),
    ...after.flatMap((field): Difference[] => {
      const fieldBefore = before.find(({ key }) => key === field.key)
      if (fieldBefore === undefined)
        return [{ about: 'fields', what: fieldTitle(field), before: '', after: kindName(field.kind) }]
      return leaves(fieldBefore, field).map(({ path, one, other }) => ({
        about: 'fields',
        what: `${fieldTitle(field)}: ${path}`,
        before: one,
        after: other,
      }))
    }),
    ...changed('fields', 'Order', order(before, after).join(', '), order(after, before).join(', ')).filter(
      () =>
        !sameValue(
          before.map(({ key }) => key).filter((key) => after.some((field) => field.key === key)),
          after.map(({ key }) => key).filter((key) => before.some((field) => field.key === key)),
        ),
    ),
  ]
}

function lookDifferences(before: FormContent['look'], after: FormContent['look']): Difference[] {
  const plain = ({ custom, ...look }: FormContent['look']) => ({ ...look, css: custom.typed })
  return leaves(plain(before), plain(after)).map(({ path, one, other }) => ({
    about: 'look',
    what: path,
    before: one,
    after: other,
  }))
}

/** Every single value that differs, by its path in words: `space inside`. */
function leaves(one: unknown, other: unknown, path = ''): { path: string; one: string; other: string }[] {
  if (sameValue(one, other)) return []
  const isPlain = (value: unknown): value is Record<string, unknown> =>
    value !== null && typeof value === 'object' && !Array.isArray(value)
  if (isPlain(one) && isPlain(other)) {
    return [...new Set([...Object.keys(one), ...Object.keys(other)])].flatMap((key) =>
      leaves(one[key], other[key], `${path} ${key.replace(/([A-Z])/g, ' $1').toLowerCase()}`.trim()),
    )
  }
  return [{ path, one: shown(one), other: shown(other) }]
}

function shown(value: unknown): string {
  if (value === null || value === undefined || value === '') return ''
  if (Array.isArray(value))
    return value
      .map((one) => (one !== null && typeof one === 'object' && 'label' in one ? String(one.label) : shown(one)))
      .join(', ')
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  return typeof value === 'object' ? JSON.stringify(value) : String(value)
}
