/** What a vCard says of somebody. */
export interface Contact {
  email: string
  /** The whole name; empty for none. */
  name: string
  firstName: string
  lastName: string
  tags: readonly string[]
  /** Names of properties of our own, such as `X-ASKBOX-TOWN`, and their values. */
  others: readonly (readonly [name: string, value: string])[]
}

/** A content line is folded when it is longer: RFC 6350, section 3.2, in octets, the line break left out. */
const LONGEST_LINE = 75

/** One vCard 4.0: RFC 6350. */
export function vCard({ email, name, firstName, lastName, tags, others }: Contact): string {
  const lines = [
    'BEGIN:VCARD',
    'VERSION:4.0',
    // FN has to be there; of somebody without a name it is what is known of them.
    `FN:${textValue(name || email)}`,
    ...(firstName === '' && lastName === '' ? [] : [`N:${componentValue(lastName)};${componentValue(firstName)};;;`]),
    `EMAIL:${textValue(email)}`,
    ...(tags.length === 0 ? [] : [`CATEGORIES:${tags.map(textValue).join(',')}`]),
    // Text is what such properties are without it as well (section 6.10); some readers want to be told.
    ...others.map(([property, value]) => `${property};VALUE=text:${textValue(value)}`),
    'END:VCARD',
  ]
  return lines.map((line) => `${folded(line)}\r\n`).join('')
}

/** RFC 6350, section 3.4: backslashes, commas and line breaks are escaped; semicolons only where they part components. */
function textValue(text: string): string {
  return text.replace(/[\\,]/g, '\\$&').replace(/\r\n|\r|\n/g, '\\n')
}

function componentValue(text: string): string {
  return textValue(text).replaceAll(';', '\\;')
}

/** Folds a line between characters, so that no one of several octets is torn apart. */
function folded(line: string): string {
  const rows: string[] = []
  let row = ''
  let octets = 0
  for (const character of line) {
    const size = octetsOf(character)
    if (octets + size > LONGEST_LINE) {
      rows.push(row)
      // The space that begins a continued line counts as well.
      row = ' '
      octets = 1
    }
    row += character
    octets += size
  }
  return [...rows, row].join('\r\n')
}

function octetsOf(character: string): number {
  const point = character.codePointAt(0)!
  return point < 0x80 ? 1 : point < 0x800 ? 2 : point < 0x10000 ? 3 : 4
}
