import type { Column } from '#core/list'
import type { HandOver } from './hand-over'
import type { TheirField, TheirList } from './read'

/** How one of our columns and one of theirs stand to each other. */
export interface FieldMatch {
  column: string
  key: string
  name: string
}

/** The same thing under other names, in letters alone. Common practice, without a source. */
const ALIKE: readonly (readonly string[])[] = [
  ['firstname', 'first', 'fname', 'givenname', 'forename', 'vorname', 'prenom'],
  ['lastname', 'last', 'lname', 'surname', 'familyname', 'nachname', 'nom'],
  ['name', 'fullname', 'yourname'],
  ['company', 'organisation', 'organization', 'school', 'firm', 'workplace'],
  ['city', 'town', 'place', 'livesin', 'ort'],
  ['country', 'land'],
  ['phone', 'telephone', 'mobile', 'tel'],
  ['website', 'web', 'url', 'homepage', 'site'],
  ['birthday', 'birthdate', 'dateofbirth', 'bday'],
]

/** Pairs our columns with a service's fields: by name, then by what names mean, then by how they begin; each at most once. */
export function matchFields(
  columns: readonly Pick<Column, 'key' | 'label'>[],
  fields: readonly TheirField[],
): FieldMatch[] {
  return matched(
    columns.map(({ key, label }) => ({ column: key, words: wordsOf(key, label) })),
    fields,
  )
}

/**
 * Pairs anew where a service's fields are not what they were: what is there still stays, and what is not goes to the field
 * that is most like what it was there, or like our column.
 */
export function matchAnew(
  columns: readonly Pick<Column, 'key' | 'label'>[],
  fields: readonly TheirField[],
  before: readonly FieldMatch[],
): FieldMatch[] {
  const lost = lostMatches(fields, before)
  const kept = before.filter((match) => !lost.includes(match))
  const free = fields.filter(({ key }) => !kept.some((match) => match.key === key))
  const renamed = matched(
    lost.map(({ column, key, name }) => ({ column, words: wordsOf(key, name) })),
    free,
  )
  // What its owner left out stays so.
  const open = columns.filter(
    ({ key }) => lost.some(({ column }) => column === key) && !renamed.some(({ column }) => column === key),
  )
  const rest = free.filter(({ key }) => !renamed.some((match) => match.key === key))
  const found = [...kept, ...renamed, ...matchFields(open, rest)]
  return columns.flatMap(({ key }) => found.filter(({ column }) => column === key))
}

function matched(columns: readonly { column: string; words: Words }[], fields: readonly TheirField[]): FieldMatch[] {
  const matches: FieldMatch[] = []
  const free = new Map(fields.map((field) => [field.key, field]))
  for (const isAlike of [isSame, meansSame, beginsSame])
    for (const { column, words } of columns) {
      if (matches.some((match) => match.column === column)) continue
      const field = [...free.values()].find(({ key, name }) => isAlike(words, wordsOf(key, name)))
      if (field === undefined) continue
      free.delete(field.key)
      matches.push({ column, key: field.key, name: field.name })
    }
  return columns.flatMap(({ column }) => matches.filter((match) => match.column === column))
}

/** Names of the field that the address goes into by itself. Common practice, without a source. */
const ADDRESS = ['email', 'emailaddress', 'mail', 'mailaddress']
const isAddress = ({ key, name }: TheirField) => wordsOf(key, name).some((word) => ADDRESS.includes(word))

/** Fields that have to be filled and are not; the address is, whatever is matched. */
export function unfilledFields(fields: readonly TheirField[], matches: readonly { key: string }[]): TheirField[] {
  return fields.filter(
    (field) => field.isRequired && !isAddress(field) && !matches.some(({ key }) => key === field.key),
  )
}

/** Matches whose field is there no more. */
export function lostMatches<Match extends { key: string }>(
  fields: readonly TheirField[],
  matches: readonly Match[],
): Match[] {
  return matches.filter(({ key }) => !fields.some((field) => field.key === key))
}

/** What a service has otherwise than a hand-over expects it. */
export interface ChangedThere {
  /** What its list is called there now; null where that is as it was, undefined where the list is gone. */
  listName?: string | null
  /** Fields that are filled, and are there no more. */
  lost: { key: string; name: string }[]
  /** Fields that have to be filled, and are not. */
  unfilled: { key: string; name: string }[]
}

/**
 * Holds what a service has now against what a hand-over expects.
 *
 * @param list the one that people go into, as it is now; null where it is there no more
 * @param fields null where the service does not tell them
 * @returns null where nothing changed
 */
export function changesThere(
  { target, fields: matches }: Pick<HandOver, 'target' | 'fields'>,
  list: Pick<TheirList, 'name'> | null,
  fields: readonly TheirField[] | null,
): ChangedThere | null {
  if (list === null) return { lost: [], unfilled: [] }
  const listName = target === null || list.name === target.name ? null : list.name
  const named = ({ key, name }: { key: string; name: string }) => ({ key, name })
  const lost = fields === null ? [] : lostMatches(fields, matches).map(named)
  const unfilled = fields === null ? [] : unfilledFields(fields, matches).map(named)
  return listName === null && lost.length === 0 && unfilled.length === 0 ? null : { listName, lost, unfilled }
}

type Words = readonly string[]
const isSame = (ours: Words, theirs: Words) => ours.some((one) => theirs.includes(one))
const meansSame = (ours: Words, theirs: Words) =>
  ALIKE.some((group) => ours.some((one) => group.includes(one)) && theirs.some((one) => group.includes(one)))
/** Of what was renamed, something mostly stays. */
const LEAST_LETTERS = 4
const beginsSame = (ours: Words, theirs: Words) =>
  ours.some((one) =>
    theirs.some(
      (other) =>
        Math.min(one.length, other.length) >= LEAST_LETTERS && (one.startsWith(other) || other.startsWith(one)),
    ),
  )

const wordsOf = (...names: string[]) =>
  names
    .map((name) =>
      name
        .toLowerCase()
        .normalize('NFKD')
        .replaceAll(/[^a-z0-9]/g, ''),
    )
    .filter(Boolean)
