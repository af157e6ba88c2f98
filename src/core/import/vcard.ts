import ICAL from 'ical.js'
import { tagsText } from '#core/list'
import type { FileProblem } from './problem'
import { type FileRow, LONGEST_ROW, MOST_COLUMNS, type PeopleReader } from './reader'

const OWN = 'x-askbox-'

/** Contacts: vCard 2.1, 3.0 and 4.0 (the first as the versit Consortium wrote it, RFC 2426, RFC 6350), read one by one. Of somebody with several addresses, the preferred one. */
export class VCardReader implements PeopleReader {
  readonly columns = ['Email', 'First name', 'Last name', 'Full name', 'Categories']
  problem: FileProblem | null = null
  private readonly places = new Map<string, number>()
  private rest = ''
  private line = 1

  push(text: string): FileRow[] {
    if (this.problem !== null) return []
    this.rest += text
    const rows: FileRow[] = []
    for (;;) {
      const end = /^END:VCARD[^\n]*\n/im.exec(this.rest)
      if (end === null) break
      const card = this.rest.slice(0, end.index + end[0].length)
      this.rest = this.rest.slice(card.length)
      rows.push(this.rowOf(card))
    }
    if (this.rest.length > LONGEST_ROW)
      this.problem = { code: 'no-end-of-row', message: `From line ${this.line} on, no contact ends.` }
    return rows
  }

  end(): FileRow[] {
    const { rest } = this
    this.rest = ''
    return rest.trim() === '' || this.problem !== null ? [] : [this.rowOf(rest)]
  }

  private rowOf(text: string): FileRow {
    const line = this.line + (/^\s*/.exec(text)?.[0].match(/\n/g)?.length ?? 0)
    this.line += text.match(/\n/g)?.length ?? 0
    const lines = linesRead(text.replace(/^\ufeff/, '').trim())
    if (lines === null) return { line, cells: [], problem: 'It is far longer than what tells of a person.' }
    if (!lines.some((one) => !/^(?:BEGIN|END|VERSION):/i.test(one)))
      return { line, cells: [], problem: 'It is no vCard that can be read.' }
    try {
      const card = new ICAL.Component(ICAL.parse(lines.join('\r\n')))
      return { line, cells: this.cellsOf(card) }
    } catch {
      return { line, cells: [], problem: 'It is no vCard that can be read.' }
    }
  }

  private cellsOf(card: InstanceType<typeof ICAL.Component>): string[] {
    // Some write `\;` also where nothing needs it: RFC 2426, section 4, has it escaped everywhere.
    const text = (name: string) => String(card.getFirstPropertyValue(name) ?? '').replaceAll('\\;', ';')
    const emails = card.getAllProperties('email')
    const preferred = emails.toSorted((one, other) => preferenceOf(one) - preferenceOf(other))[0]
    const email = String(preferred?.getFirstValue() ?? '').trim()
    const [last = '', first = ''] = ([card.getFirstPropertyValue('n')].flat() as unknown[]).map(partText)
    const name = text('fn')
    // Mandatory properties of a vCard that has no others.
    const fullName = name === email ? '' : name
    const categories = card.getAllProperties('categories').flatMap((property) => property.getValues().map(String))
    const cells = [email, first, last, fullName, tagsText(categories)]
    for (const property of card.getAllProperties())
      if (property.name.startsWith(OWN) && this.columns.length < MOST_COLUMNS)
        cells[this.placeOf(property.name.slice(OWN.length))] = String(property.getFirstValue())
    const organisation = ([card.getFirstPropertyValue('org')].flat() as unknown[]).map(partText).join(', ')
    for (const [name, value] of [
      ['Phone', text('tel').replace(/^tel:/i, '')],
      ['Organisation', organisation],
      ['Note', text('note')],
    ] as const)
      if (value !== '') cells[this.placeOf(name)] = value
    return Array.from(cells, (cell) => cell ?? '')
  }

  private placeOf(name: string): number {
    const place = this.places.get(name)
    if (place !== undefined) return place
    this.places.set(name, this.columns.length)
    return this.columns.push(name) - 1
  }
}

/** A part of a name may be several. */
function partText(part: unknown): string {
  return Array.isArray(part) ? part.join(' ') : String(part ?? '')
}

/** The lower, the more preferred: `PREF` of version 4, `TYPE=pref` of version 3. */
function preferenceOf(property: { getParameter(name: string): unknown }): number {
  const pref = Number(property.getParameter('pref'))
  if (!Number.isNaN(pref) && pref > 0) return pref
  return [property.getParameter('type')].flat().some((type) => String(type).toLowerCase() === 'pref') ? 1 : 101
}

/** Parameters of version 2.1 that stand without a name. */
const ENCODING = /^(?:QUOTED-PRINTABLE|8BIT|7BIT|BASE64)$/i

/** Properties read of a contact; pictures, sounds and keys are skipped. */
const READ = /^(?:[\w-]+\.)?(?:BEGIN|END|VERSION|EMAIL|N|FN|CATEGORIES|TEL|ORG|NOTE|X-ASKBOX-[\w-]+)[;:]/i
/** Bounds for the parser, which is quadratic in the length of a line and the lines of a contact. */
const LONGEST_LINE = 16 * 1024
const MOST_LINES = 500

/**
 * The lines of a contact that are read, unfolded (RFC 6350, section 3.2), as version 3.0 or 4.0 has them: those of version
 * 2.1 are rewritten. Null where they are more, or longer, than what is told of anybody.
 */
function linesRead(text: string): string[] | null {
  const isOld = /^VERSION:2\.1\s*$/im.test(text)
  const unfolded = (isOld ? text.replace(/=\r?\n(?=[^\n])/g, '') : text).replace(/\r?\n[ \t]/g, '')
  const lines = unfolded.split(/\r?\n/).filter((line) => READ.test(line))
  if (lines.length > MOST_LINES || lines.some((line) => line.length > LONGEST_LINE)) return null
  return isOld ? lines.map(newerLine) : lines
}

/** A line of version 2.1 as one of version 3.0: values in quoted-printable are decoded, and bare parameters get their name. */
function newerLine(line: string): string {
  if (/^VERSION:/i.test(line)) return 'VERSION:3.0'
  const colon = line.indexOf(':')
  const [name = '', ...parameters] = line.slice(0, colon).split(';')
  const value = line.slice(colon + 1)
  const valueOf = (wanted: string) =>
    parameters.find((one) => one.toUpperCase().startsWith(`${wanted}=`))?.slice(wanted.length + 1)
  const encoding = valueOf('ENCODING') ?? parameters.find((one) => ENCODING.test(one)) ?? ''
  const kept = parameters
    .filter((one) => !ENCODING.test(one) && !/^(?:ENCODING|CHARSET)=/i.test(one))
    .map((one) => (one.includes('=') ? one : `TYPE=${one}`))
  const isQuoted = /^quoted-printable$/i.test(encoding)
  const decoded = isQuoted ? decodedQuotedPrintable(value, valueOf('CHARSET') ?? 'utf-8') : value
  // Line breaks and commas are told by signs from version 3.0 on; semicolons part what a name is made of in both.
  const escaped = decoded.replace(/\r\n|\r|\n/g, '\\n').replace(/(?<!\\),/g, '\\,')
  return `${[name, ...kept].join(';')}:${/^CATEGORIES$/i.test(name) ? decoded : escaped}`
}

/** RFC 2045, section 6.7, of a value whose soft line breaks are gone. */
function decodedQuotedPrintable(value: string, charset: string): string {
  const bytes = value
    .split(/(=[0-9a-f]{2})/i)
    .flatMap((part) =>
      /^=[0-9a-f]{2}$/i.test(part) ? [Number.parseInt(part.slice(1), 16)] : [...new TextEncoder().encode(part)],
    )
  let decoder = new TextDecoder()
  try {
    decoder = new TextDecoder(charset)
  } catch {
    // Of no charset that is known.
  }
  return decoder.decode(new Uint8Array(bytes))
}
