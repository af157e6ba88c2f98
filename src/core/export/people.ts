import { type Column, type Member, type MemberStatus, tagsText, valueOf } from '#core/list'
import { rowsText } from './rows'
import { vCard } from './vcard'

/** What a file of people is written as. */
export const peopleFormats = ['csv', 'json-lines', 'vcard'] as const
export type PeopleFormat = (typeof peopleFormats)[number]

/** Facts about somebody that every list has, by the key of their column in a file; keys of a list's own columns have no colon. */
export const factColumns = [
  { key: ':status', label: 'Status' },
  { key: ':tags', label: 'Tags' },
  { key: ':joined', label: 'Joined at' },
  { key: ':spot', label: 'Spot' },
  { key: ':page', label: 'Page' },
  { key: ':receipt', label: 'Receipt' },
] as const
export type FactKey = (typeof factColumns)[number]['key']

/** A file of people, piece by piece: what it begins with, and what each person adds. */
export interface PeopleWriter {
  start: string
  /** @param receipts how each of them agreed, in words, where that is wanted */
  piece(members: readonly Member[], receipts?: ReadonlyMap<string, string>): string
  /** For a download: the ending of its name, and its media type. */
  ending: string
  type: string
}

/** What facts are called where people read them. Without, a status is told in the words that programs know, and no spot. */
export interface FactWords {
  status?: Readonly<Record<MemberStatus, string>>
  /** By the id of a spot. */
  spots?: Readonly<Record<string, string>>
}

/** @param columns those that are wanted besides the address, in their order: a list's own, and `factColumns` */
export function peopleWriter(format: PeopleFormat, columns: readonly Column[], words: FactWords = {}): PeopleWriter {
  switch (format) {
    case 'csv':
      return {
        // By the mark, spreadsheets know that it is UTF-8 (common practice).
        start: `\ufeff${rowsText([['Email', ...columns.map(({ label }) => label)]])}`,
        piece: (members, receipts) =>
          rowsText(
            members.map((member) => [
              member.email.typed,
              ...columns.map(({ key }) => factOf(member, key, words, receipts)),
            ]),
          ),
        ending: 'csv',
        type: 'text/csv;charset=utf-8',
      }
    case 'json-lines':
      return {
        start: '',
        piece: (members, receipts) =>
          members.map((member) => `${JSON.stringify(recordOf(member, columns, words, receipts))}\n`).join(''),
        ending: 'jsonl',
        type: 'application/jsonl',
      }
    case 'vcard':
      return {
        start: '',
        piece: (members, receipts) =>
          members.map((member) => vCard(contactOf(member, columns, words, receipts))).join(''),
        ending: 'vcf',
        type: 'text/vcard;charset=utf-8',
      }
  }
}

type Receipts = ReadonlyMap<string, string>

const spotOf = ({ from }: Member, { spots = {} }: FactWords) => (from === null ? '' : (spots[from.spot] ?? ''))

function factOf(member: Member, key: string, words: FactWords, receipts?: Receipts): string {
  switch (key as FactKey) {
    case ':status':
      return words.status?.[member.status] ?? member.status
    case ':tags':
      return tagsText(member.tags ?? [])
    case ':joined':
      return member.joinedAt
    case ':spot':
      return spotOf(member, words)
    case ':page':
      return member.from?.page ?? ''
    case ':receipt':
      return receipts?.get(member.id) ?? ''
    default:
      return valueOf(member, key)
  }
}

function recordOf(
  member: Member,
  columns: readonly Column[],
  words: FactWords,
  receipts?: Receipts,
): Record<string, unknown> {
  const wants = (key: FactKey) => columns.some((column) => column.key === key)
  const own = columns.filter(({ key }) => !key.startsWith(':'))
  return {
    email: member.email.typed,
    values: Object.fromEntries(own.map(({ key }) => [key, valueOf(member, key)])),
    ...(wants(':tags') && { tags: member.tags ?? [] }),
    ...(wants(':status') && { status: member.status }),
    ...(wants(':joined') && { joinedAt: member.joinedAt }),
    ...(wants(':spot') && member.from !== null && { spot: spotOf(member, words) }),
    ...(wants(':page') && member.from !== null && { page: member.from.page }),
    ...(wants(':receipt') && receipts !== undefined && { receipt: receipts.get(member.id) ?? '' }),
  }
}

/** Columns whose keys say that they are parts of a name stand where a vCard has them; others under names of our own. */
function contactOf(member: Member, columns: readonly Column[], words: FactWords, receipts?: Receipts) {
  const value = (key: string) => (columns.some((column) => column.key === key) ? valueOf(member, key) : '')
  const [firstName, lastName] = [value('first-name'), value('last-name')]
  const named = new Set(['first-name', 'last-name', ':tags'])
  return {
    email: member.email.typed,
    name: value('full-name') || [firstName, lastName].filter(Boolean).join(' '),
    firstName,
    lastName,
    tags: columns.some(({ key }) => key === ':tags') ? (member.tags ?? []) : [],
    others: columns.flatMap(({ key }): [string, string][] => {
      const fact = named.has(key) ? '' : factOf(member, key, words, receipts)
      return fact === '' ? [] : [[`X-ASKBOX-${key.replace(':', '').toUpperCase()}`, fact]]
    }),
  }
}
