import type { Column } from '#core/list'
import type { TheirField } from './read'

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
export function matchFields(columns: readonly Column[], fields: readonly TheirField[]): FieldMatch[] {
  const matches: FieldMatch[] = []
  const free = new Map(fields.map((field) => [field.key, field]))
  const take = (column: Column, isMatch: (field: TheirField) => boolean) => {
    if (matches.some(({ column: key }) => key === column.key)) return
    const field = [...free.values()].find(isMatch)
    if (field === undefined) return
    free.delete(field.key)
    matches.push({ column: column.key, key: field.key, name: field.name })
  }
  for (const isAlike of [isSame, meansSame, beginsSame])
    for (const column of columns)
      take(column, (field) => isAlike(wordsOf(column.key, column.label), wordsOf(field.key, field.name)))
  return columns.flatMap(({ key }) => matches.filter(({ column }) => column === key))
}

/** Fields that have to be filled and are not. */
export function unfilledFields(fields: readonly TheirField[], matches: readonly { key: string }[]): TheirField[] {
  return fields.filter(({ key, isRequired }) => isRequired && !matches.some((match) => match.key === key))
}

/** Matches whose field is there no more. */
export function lostMatches<Match extends { key: string }>(
  fields: readonly TheirField[],
  matches: readonly Match[],
): Match[] {
  return matches.filter(({ key }) => !fields.some((field) => field.key === key))
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
