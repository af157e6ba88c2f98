import { appendFileSync, existsSync, readFileSync, writeFileSync } from 'node:fs'

/** The three pretend services, each made differently. */
export const services = ['lantern', 'kettle', 'harbour'] as const
export type Service = (typeof services)[number]

export interface HeldField {
  key: string
  name: string
  kind: string
  isRequired: boolean
}
export interface HeldPerson {
  id: string
  email: string
  state: 'on' | 'waiting' | 'off'
  values: Record<string, string>
  tags: string[]
}
export interface PretendList {
  id: string
  name: string
  fields: HeldField[]
  people: Map<string, HeldPerson>
}
export interface PretendKey {
  text: string
  canWrite: boolean
}

/** What can be made wrong, on purpose. */
export const troubles = {
  'key-withdrawn': 'No key is valid any more',
  'cannot-write': 'Keys may read, and not write',
  'list-gone': 'The lists are gone',
  'field-renamed': 'The first field of each list has another key',
  'field-needed': 'Each list wants to know a field more',
  down: 'It is down',
  slow: 'Each answer takes twenty seconds',
  'rate-limited': 'It takes two requests a second',
  'keeps-nothing': 'It says yes and keeps nothing',
  html: 'It answers with a page',
  'opted-out': 'Whoever comes has left already',
  'clock-wrong': 'Its clock is an hour ahead',
} as const
export type Trouble = keyof typeof troubles

/** One change to what is held: what is acknowledged was written down before. */
type Change =
  | { do: 'put'; service: Service; list: string; person: HeldPerson }
  | { do: 'drop'; service: Service; list: string; email: string }
  | { do: 'field'; service: Service; list: string; field: HeldField }
  | { do: 'key'; service: Service; key: PretendKey }
  | { do: 'no-key'; service: Service; text: string }
  | { do: 'trouble'; service: Service; trouble: Trouble; isOn: boolean }
  | { do: 'told'; told: Told }
  /** Where a service tells of who left. */
  | { do: 'tells'; service: Service; address: string }

/** What a webhook or a form of the pretend services was sent. */
export interface Told {
  at: string
  to: string
  text: string
}
const TOLD_KEPT = 200

const field = (key: string, name: string, kind: string, isRequired = false): HeldField => ({
  key,
  name,
  kind,
  isRequired,
})
const list = (id: string, name: string, fields: HeldField[]): PretendList => ({ id, name, fields, people: new Map() })

function first(): Record<Service, { keys: PretendKey[]; lists: PretendList[]; troubles: Set<Trouble> }> {
  return {
    lantern: {
      keys: [{ text: 'lantern-demo-key', canWrite: true }],
      lists: [
        list('l1', 'Observatory news', [
          field('FIRST', 'First name', 'string'),
          field('CLASS', 'Class size', 'number'),
          field('SCHOOL', 'School', 'string'),
        ]),
        list('l2', 'Friends of the hill', [field('FIRST', 'First name', 'string')]),
        list('l3', 'Old paper letter', []),
      ],
      troubles: new Set(),
    },
    kettle: {
      keys: [{ text: 'kettle-demo-word', canWrite: true }],
      lists: [
        list('11', 'Night owls', [field('Q1', 'Given name', 'words'), field('Q2', 'Town', 'words')]),
        list('12', 'Schools', [field('Q1', 'Given name', 'words'), field('Q3', 'How many come?', 'number')]),
      ],
      troubles: new Set(),
    },
    harbour: {
      keys: [],
      lists: [list('b1', 'The dome bulletin', [field('given', 'Given name', 'line')]), list('b2', 'Press', [])],
      troubles: new Set(),
    },
  }
}

/** What the pretend services hold, with a file that outlives them. */
export class Holdings {
  private readonly held = first()
  private readonly tells = new Map<Service, string>()
  readonly told: Told[] = []
  private count = 0

  /** @param file where each change is written to before it is acknowledged; null keeps nothing */
  constructor(private readonly file: string | null) {
    if (file === null || !existsSync(file)) return
    const lines = readFileSync(file, 'utf8').split('\n').filter(Boolean)
    for (const line of lines) {
      try {
        this.apply(JSON.parse(line) as Change)
      } catch {
        // The end of a line that was being written when the process was ended.
      }
    }
    writeFileSync(
      file,
      lines
        .filter(isWhole)
        .map((line) => `${line}\n`)
        .join(''),
    )
  }

  lists(service: Service): PretendList[] {
    return this.has(service, 'list-gone') ? [] : this.held[service].lists
  }

  list(service: Service, id: string): PretendList | null {
    return this.lists(service).find((one) => one.id === id) ?? null
  }

  /** As they are told of: renamed or with one more where that was switched on. */
  fields(service: Service, { fields }: PretendList): HeldField[] {
    const renamed = this.has(service, 'field-renamed')
      ? fields.map((one, at) => (at === 0 ? { ...one, key: `${one.key}2`, name: `${one.name} (new)` } : one))
      : fields
    return this.has(service, 'field-needed') ? [...renamed, field('NEEDED', 'Member number', 'number', true)] : renamed
  }

  keys(service: Service): PretendKey[] {
    return this.held[service].keys
  }

  /** What a key opens. */
  access(service: Service, text: string | null): 'none' | 'read' | 'write' {
    const key = this.held[service].keys.find((one) => one.text === text)
    if (key === undefined || this.has(service, 'key-withdrawn')) return 'none'
    return key.canWrite && !this.has(service, 'cannot-write') ? 'write' : 'read'
  }

  has(service: Service, trouble: Trouble): boolean {
    return this.held[service].troubles.has(trouble)
  }

  person(service: Service, list: string, email: string): HeldPerson | null {
    return this.list(service, list)?.people.get(email.toLowerCase()) ?? null
  }

  /** Keeps somebody, and resolves with who it now is; null for who left, who stays so. */
  put(
    service: Service,
    list: PretendList,
    {
      email,
      values,
      tags,
      formerTags = [],
      asks,
    }: { email: string; values: Record<string, string>; tags: string[]; formerTags?: string[]; asks: boolean },
  ): { person: HeldPerson; isNew: boolean } | null {
    const before = list.people.get(email.toLowerCase())
    if (before?.state === 'off' || this.has(service, 'opted-out')) return null
    const person: HeldPerson = {
      id: before?.id ?? `p${Date.now().toString(36)}${(this.count += 1).toString(36)}`,
      email: before?.email ?? email,
      state: before?.state ?? (asks ? 'waiting' : 'on'),
      values: { ...before?.values, ...values },
      tags: [...new Set([...(before?.tags ?? []).filter((tag) => !formerTags.includes(tag)), ...tags])],
    }
    if (!this.has(service, 'keeps-nothing')) this.change({ do: 'put', service, list: list.id, person })
    return { person, isNew: before === undefined }
  }

  /** Made by the services' own pages: confirmed, left. */
  setState(service: Service, list: string, email: string, state: HeldPerson['state']): boolean {
    const person = this.person(service, list, email)
    if (person !== null) this.change({ do: 'put', service, list, person: { ...person, state } })
    return person !== null
  }

  drop(service: Service, list: string, email: string): boolean {
    if (this.person(service, list, email) === null) return false
    this.change({ do: 'drop', service, list, email })
    return true
  }

  addField(service: Service, list: PretendList, name: string): HeldField {
    const made = field(
      name
        .toUpperCase()
        .replaceAll(/[^A-Z0-9]/g, '')
        .slice(0, 10) || 'FIELD',
      name,
      'string',
    )
    if (!list.fields.some(({ key }) => key === made.key))
      this.change({ do: 'field', service, list: list.id, field: made })
    return made
  }

  addKey(service: Service, key: PretendKey): void {
    this.change({ do: 'key', service, key })
  }

  dropKey(service: Service, text: string): void {
    this.change({ do: 'no-key', service, text })
  }

  switch(service: Service, trouble: Trouble, isOn: boolean): void {
    this.change({ do: 'trouble', service, trouble, isOn })
  }

  /** Where a service tells of who left; empty for nowhere. */
  tellsTo(service: Service): string {
    return this.tells.get(service) ?? ''
  }

  tellTo(service: Service, address: string): void {
    this.change({ do: 'tells', service, address })
  }

  tell(told: Told): void {
    this.change({ do: 'told', told })
  }

  private change(change: Change): void {
    if (this.file !== null) appendFileSync(this.file, `${JSON.stringify(change)}\n`)
    this.apply(change)
  }

  private apply(change: Change): void {
    if (change.do === 'told') {
      this.told.unshift(change.told)
      this.told.length = Math.min(this.told.length, TOLD_KEPT)
      return
    }
    if (change.do === 'tells') {
      this.tells.set(change.service, change.address)
      return
    }
    const held = this.held[change.service]
    const people = 'list' in change ? held.lists.find(({ id }) => id === change.list) : undefined
    switch (change.do) {
      case 'put':
        people?.people.set(change.person.email.toLowerCase(), change.person)
        break
      case 'drop':
        people?.people.delete(change.email.toLowerCase())
        break
      case 'field':
        people?.fields.push(change.field)
        break
      case 'key':
        held.keys.push(change.key)
        break
      case 'no-key':
        held.keys = held.keys.filter(({ text }) => text !== change.text)
        break
      case 'trouble':
        if (change.isOn) held.troubles.add(change.trouble)
        else held.troubles.delete(change.trouble)
    }
  }
}

function isWhole(line: string): boolean {
  try {
    JSON.parse(line)
    return true
  } catch {
    return false
  }
}
