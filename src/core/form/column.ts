import { type Field, type FieldKind, fieldTitle } from './field'

/** A column of a list, as far as fields are concerned. */
interface Column {
  key: string
  label: string
}

/** What a field's column is called: as the field is, in one line. */
export function columnLabel(field: Field): string {
  return fieldTitle(field).replaceAll(/\s+/g, ' ').slice(0, 200).trim() || field.kind
}

/** A key for a column named so, that none of `taken` has: small letters, digits and hyphens. */
export function columnKey(label: string, taken: readonly string[]): string {
  const plain = label
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^[^a-z]+/, '')
    .replace(/-$/, '')
    .slice(0, 36)
  const base = plain === '' ? 'answer' : plain
  let key = base
  for (let count = 2; taken.includes(key) || key === 'email'; count++) key = `${base}-${count}`
  return key
}

const unkept: readonly FieldKind[] = ['email', 'consent', 'topics', 'message', 'subject', 'join-box']

/**
 * Whether a column of the list keeps the answer. Consent is kept with the receipt, topics as tags, the address as itself,
 * and a message goes to the owner alone.
 */
export function fillsColumn({ kind }: Field): boolean {
  return !unkept.includes(kind)
}

/**
 * A new field with the column that will keep its answer, and that column where the list has to get it. A column that
 * is there is shared only where the kind of field says what it holds, and no other field of the form fills it.
 */
export function fieldWithColumn(
  field: Field,
  fields: readonly Field[],
  columns: readonly Column[],
): { field: Field; column: Column | null } {
  if (!fillsColumn(field)) return { field, column: null }
  const isTaken = (key: string) => fields.some((other) => other.key !== field.key && other.column === key)
  const wanted = field.column
  if (wanted !== '' && !isTaken(wanted)) {
    const isThere = columns.some(({ key }) => key === wanted)
    return { field, column: isThere ? null : { key: wanted, label: columnLabel(field) } }
  }
  const label = columnLabel(field)
  const taken = [...columns.map(({ key }) => key), ...fields.map(({ column }) => column)]
  const column = { key: columnKey(label, taken), label }
  return { field: { ...field, column: column.key } as Field, column }
}

/** The columns that a list lacks for what these fields ask, named alike. */
export function columnsLacking(fields: readonly Field[], columns: readonly Column[]): Column[] {
  const taken = new Set(columns.map(({ key }) => key))
  return fields.flatMap((field) => {
    if (!fillsColumn(field) || field.column === '' || taken.has(field.column)) return []
    taken.add(field.column)
    return [{ key: field.column, label: columnLabel(field) }]
  })
}
