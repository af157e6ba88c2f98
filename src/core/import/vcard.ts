import ICAL from 'ical.js'
import { tagsText } from '#core/list'
import type { FileProblem } from './problem'
import { type FileRow, LONGEST_ROW, type PeopleReader } from './reader'

const OWN = 'x-askbox-'

/** Contacts: vCard 3.0 and 4.0 (RFC 2426, RFC 6350), read one by one. Of somebody with several addresses, the preferred one. */
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
    try {
      const card = new ICAL.Component(ICAL.parse(text.replace(/^\ufeff/, '').trim()) as never)
      return { line, cells: this.cellsOf(card) }
    } catch {
      return { line, cells: [], problem: 'It is no vCard that can be read.' }
    }
  }

  private cellsOf(card: InstanceType<typeof ICAL.Component>): string[] {
    const text = (name: string) => String(card.getFirstPropertyValue(name) ?? '')
    const emails = card.getAllProperties('email')
    const preferred = emails.toSorted((one, other) => preferenceOf(one) - preferenceOf(other))[0]
    const email = String(preferred?.getFirstValue() ?? '').trim()
    const [last = '', first = ''] = ([card.getFirstPropertyValue('n')].flat() as unknown[]).map(partText)
    const name = text('fn')
    // What a vCard has to have, where nothing else is known.
    const fullName = name === email ? '' : name
    const categories = card.getAllProperties('categories').flatMap((property) => property.getValues().map(String))
    const cells = [email, first, last, fullName, tagsText(categories)]
    for (const property of card.getAllProperties())
      if (property.name.startsWith(OWN))
        cells[this.placeOf(property.name.slice(OWN.length))] = String(property.getFirstValue())
    const organisation = ([card.getFirstPropertyValue('org')].flat() as unknown[]).map(partText).join(', ')
    for (const [name, value] of [
      ['Phone', text('tel')],
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
