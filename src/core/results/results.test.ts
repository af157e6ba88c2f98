import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { jStat } from 'jstat'
import type { ListId, MemberId } from '#core/ids'
import type { Entry } from '#core/journal'
import { affectedMembers, applyToMember, type Member } from '#core/list'
import {
  behindBest,
  type Count,
  dayAfter,
  difference,
  growthDays,
  growthSpans,
  localTime,
  comingsAndGoings,
  PeopleCounter,
  quietWords,
  rateWords,
  resultLines,
  rhythmOf,
  type SeenRow,
  unusedForms,
  weekWords,
  wholeWay,
  wilson,
} from '.'
import { generator } from '../../../tests/random'
import { poissonAtMost } from './quiet'
import { Z_95 } from './rate'

const quantile = (share: number) => jStat.normal.inv(share, 0, 1)

describe('a share and its interval', () => {
  // R. G. Newcombe, Statistics in Medicine 17 (1998), 857-872, table I, method 3; the figures from memory.
  test.each([
    [81, 263, 0.2553, 0.3662],
    [15, 148, 0.0624, 0.1605],
    [0, 20, 0, 0.1611],
    [1, 29, 0.0061, 0.1718],
  ])('%i of %i lies where Newcombe has it', (count, of, low, high) => {
    const interval = wilson({ count, of })
    expect(interval.low).toBeCloseTo(low, 4)
    expect(interval.high).toBeCloseTo(high, 4)
  })
  // The same author, 873-890, table II, method 10; the figures from memory.
  test.each([
    [56, 70, 48, 80, 0.0524, 0.3339],
    [9, 10, 3, 10, 0.1705, 0.809],
    [6, 7, 2, 7, 0.0582, 0.8062],
    [5, 56, 0, 29, -0.0381, 0.1926],
    [0, 10, 0, 20, -0.1611, 0.2775],
    [0, 10, 0, 10, -0.2775, 0.2775],
    [10, 10, 0, 20, 0.6791, 1],
    [10, 10, 0, 10, 0.6075, 1],
  ])('%i of %i and %i of %i differ as Newcombe has it', (a, m, b, n, low, high) => {
    const interval = difference({ count: a, of: m }, { count: b, of: n })
    expect(interval.low).toBeCloseTo(low, 4)
    expect(interval.high).toBeCloseTo(high, 4)
  })
  test('property: its ends are where the score test just does not refuse, by the normal distribution of jStat', () => {
    expect(Z_95).toBeCloseTo(quantile(0.975), 6)
    const counts = fc.tuple(fc.integer({ min: 1, max: 5000 }), fc.double({ min: 0, max: 1, noNaN: true }))
    fc.assert(
      fc.property(counts, ([of, part]) => {
        const count = Math.round(of * part)
        const { low, high } = wilson({ count, of })
        const share = count / of
        expect(low <= share && share <= high).toBe(true)
        for (const end of [low, high])
          if (end > 0 && end < 1) expect(Math.abs(share - end) / Math.sqrt((end * (1 - end)) / of)).toBeCloseTo(Z_95, 5)
      }),
    )
  })
  test.each<[Count, string]>([
    [{ count: 3, of: 41 }, 'too early: 41 views'],
    [{ count: 0, of: 1 }, 'too early: 1 view'],
    [{ count: 30, of: 1000 }, 'between 2 and 4 in 100'],
    [{ count: 3, of: 1000 }, 'between 1 and 9 in 1,000'],
    [{ count: 50_000, of: 1_000_000 }, 'about 5 in 100'],
  ])('%j in words', (count, words) => expect(rateWords(count)).toBe(words))
  test('noise is not ranked: of places that are alike, one is called behind in at most 5 of 100 tries', () => {
    let state = 1
    // A small generator, so that each run is the same (Park and Miller, "minimal standard").
    const random = () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647
    let wrong = 0
    for (let run = 0; run < 400; run += 1) {
      const counts = Array.from({ length: 8 }, () => {
        const of = 200 + Math.floor(random() * 600)
        return { of, count: Array.from({ length: of }, random).filter((one) => one < 0.05).length }
      })
      if (behindBest(counts, quantile).some(Boolean)) wrong += 1
    }
    expect(wrong / 400).toBeLessThanOrEqual(0.05)
    const clear = behindBest(
      [
        { count: 90, of: 1000 },
        { count: 20, of: 1000 },
        { count: 2, of: 20 },
      ],
      quantile,
    )
    expect(clear).toEqual([false, true, false])
  })
})

describe('days and hours by the clocks of a place (IANA time zone database)', () => {
  test.each([
    // Summer time begins and ends: the day has 23 and 25 hours.
    ['Europe/Berlin', '2026-03-28T22:59:00Z', '2026-03-28', 23],
    ['Europe/Berlin', '2026-03-28T23:00:00Z', '2026-03-29', 0],
    ['Europe/Berlin', '2026-03-29T01:00:00Z', '2026-03-29', 3],
    ['Europe/Berlin', '2026-03-29T21:59:00Z', '2026-03-29', 23],
    ['Europe/Berlin', '2026-10-25T00:30:00Z', '2026-10-25', 2],
    ['Europe/Berlin', '2026-10-25T01:30:00Z', '2026-10-25', 2],
    ['Europe/Berlin', '2026-10-25T22:59:00Z', '2026-10-25', 23],
    ['America/New_York', '2026-03-08T07:00:00Z', '2026-03-08', 3],
    // Not by whole hours.
    ['Asia/Kathmandu', '2026-01-01T18:14:00Z', '2026-01-01', 23],
    ['Asia/Kathmandu', '2026-01-01T18:15:00Z', '2026-01-02', 0],
    ['Australia/Lord_Howe', '2026-04-04T14:59:00Z', '2026-04-05', 1],
    ['no zone', '2026-01-01T18:15:00Z', '2026-01-01', 18],
  ])('%s at %s', (zone, at, day, hour) => expect(localTime(Date.parse(at), zone)).toEqual({ day, hour }))
})

/** What somebody does, as entries of the journal. */
const history = fc
  .array(
    fc.record({
      who: fc.integer({ min: 0, max: 5 }),
      what: fc.constantFrom(
        ...(['joins', 'is asked', 'comes again', 'bot', 'confirms', 'leaves', 'bounces', 'is removed'] as const),
        ...([
          'is restored',
          'is brought in',
          'all removed',
          'all restored',
          'is erased',
          'all withdrawn',
          'corrects a slip',
          'returns',
          'expires',
        ] as const),
      ),
      hours: fc.integer({ min: 0, max: 40 }),
    }),
    { maxLength: 60 },
  )
  .map((wishes) => {
    let at = Date.parse('2026-09-01T00:00:00Z')
    return wishes.map(({ who, what, hours }, index): Entry => {
      at += hours * 3_600_000
      const member = `person${who}` as MemberId
      const list = `list${who % 2}`
      const shared = { n: index + 1, at: new Date(at).toISOString(), list, id: `entry${index}` }
      const email = { typed: `p${who}@m.example`, compared: `p${who}@m.example` }
      const personal = { email, values: {}, page: '' }
      const arrival = { ...shared, kind: 'arrival', spot: `spot${index % 3}`, form: 'someform', version: 1, personal }
      const others = { ...shared, kind: 'members-changed', batch: 'somebatch', member: null, members: [member] }
      const entries = {
        joins: { ...arrival, verdict: 'joined', member },
        'is asked': { ...arrival, verdict: 'confirm-first', member },
        'comes again': { ...arrival, verdict: 'already-on-list', member },
        bot: { ...arrival, verdict: 'bot', member: null },
        confirms: { ...shared, kind: 'member-confirmed', member },
        leaves: { ...shared, kind: 'member-left', member, by: 'page' },
        bounces: { ...shared, kind: 'member-bounced', member, personal: { reason: '' } },
        expires: { ...shared, kind: 'member-expired', member },
        returns: { ...shared, kind: 'member-returned', member },
        'is removed': { ...shared, kind: 'member-removed', member },
        'is restored': { ...shared, kind: 'member-restored', member, status: index % 2 ? 'confirmed' : 'waiting' },
        'is brought in': {
          ...{ ...shared, kind: 'member-written', batch: 'somebatch', member, joinedAt: shared.at },
          ...{ status: index % 2 ? 'confirmed' : 'left', personal: { email, values: {}, tags: [] } },
        },
        'all removed': { ...others, personal: { change: { kind: 'remove' } } },
        'all restored': { ...others, personal: { change: { kind: 'restore', status: 'confirmed' } } },
        'corrects a slip': { ...shared, kind: 'member-corrected', member, personal: { email, was: email } },
        'all withdrawn': { ...others, personal: { change: { kind: 'withdraw' } } },
        'is erased': { ...others, kind: 'members-erased', entries: [], hashes: [] },
      }
      return entries[what] as unknown as Entry
    })
  })

function listCounts(entries: readonly Entry[]): Record<string, number> {
  const state = new Map<MemberId, Member>()
  for (const entry of entries)
    for (const id of affectedMembers(entry)) {
      const member = applyToMember(state.get(id) ?? null, entry)
      if (member === null) state.delete(id)
      else state.set(id, member)
    }
  const counts: Record<string, number> = {}
  for (const { list, status } of state.values()) if (status === 'confirmed') counts[list] = (counts[list] ?? 0) + 1
  return counts
}

function counted(entries: readonly Entry[]): PeopleCounter {
  const counter = new PeopleCounter(() => 'Europe/Berlin', 'Europe/Berlin')
  for (const entry of entries) counter.add(entry)
  return counter
}

const demo = JSON.parse(readFileSync(join(__dirname, '../../../demo/cloudberry-hill.json'), 'utf8')) as {
  journal: { entries: Entry[] } | Entry[]
}
const demoEntries = Array.isArray(demo.journal) ? demo.journal : demo.journal.entries

/** All figures of a history, wherever they are shown, are the same people. */
function figuresAgree(entries: readonly Entry[]): void {
  const counter = counted(entries)
  const { rows, growth, hours, delays } = counter.results()
  expect(counter.counts()).toEqual(listCounts(entries))
  const grown: Record<string, number> = {}
  for (const { list, came, brought, left } of growth) {
    expect(brought).toBeLessThanOrEqual(came)
    grown[list] = (grown[list] ?? 0) + came - left
  }
  expect(Object.fromEntries(Object.entries(grown).filter(([, count]) => count !== 0))).toEqual(listCounts(entries))
  const arrivals = entries.filter((entry) => entry.kind === 'arrival')
  const of = (...verdicts: string[]) => arrivals.filter(({ verdict }) => verdicts.includes(verdict)).length
  const all = { from: '0000', to: '9999' }
  for (const by of ['day', 'spot', 'form', 'source', 'version'] as const)
    expect(wholeWay(resultLines({ by, looked: all, signUps: rows, seen: [], formOf: new Map() }))).toMatchObject({
      signUps: of('joined', 'confirm-first'),
      asked: of('confirm-first'),
      confirmed: of('joined') + delays.length,
      already: of('already-on-list', 'already-waiting'),
      bots: of('bot'),
    })
  expect(hours.reduce((sum, { signUps }) => sum + signUps, 0)).toBe(of('joined', 'confirm-first'))
}

test('the figures of the demo agree everywhere', () => {
  expect(demoEntries.length).toBeGreaterThan(100)
  figuresAgree(demoEntries)
})

test('property: the figures of any history agree, and what is erased of it later changes none', () => {
  fc.assert(
    fc.property(history, (entries) => {
      figuresAgree(entries)
      const erased = entries.map((entry) =>
        entry.kind === 'arrival' ? ({ ...entry, personal: null, commitment: 'x' } as unknown as Entry) : entry,
      )
      const sums = (list: readonly Entry[]) =>
        counted(list)
          .results()
          .rows.map(({ source: _, ...row }) => row)
      expect(sums(erased)).toEqual(sums(entries))
    }),
  )
})

const someone = (n: number, kind: string, more: object = {}) =>
  ({ ...{ n, id: `e${n}`, at: `2026-09-0${n}T10:00:00Z`, list: 'l', kind, member: 'm' }, ...more }) as unknown as Entry
const many = (n: number, change: object) =>
  someone(n, 'members-changed', { batch: 'b', member: null, members: ['m'], personal: { change } })
const joins = (n: number) =>
  someone(n, 'arrival', { verdict: 'joined', spot: 's', form: 'f', version: 1, personal: null })
/** An undo is no arrival, whoever makes it and of whatever: day by day as if neither had happened. */
test.each<[string, Entry[], Record<string, [came: number, left: number]>]>([
  [
    'taken off and put back',
    [joins(1), someone(2, 'member-removed'), someone(3, 'member-restored', { status: 'confirmed' })],
    { '2026-09-01': [1, 0] },
  ],
  [
    'many taken off and put back',
    [joins(1), many(2, { kind: 'remove' }), many(3, { kind: 'restore', status: 'confirmed' })],
    { '2026-09-01': [1, 0] },
  ],
  [
    'left, and back by one press',
    [joins(1), someone(2, 'member-left', { by: 'page' }), someone(3, 'member-returned')],
    { '2026-09-01': [1, 0] },
  ],
  [
    'bounced, and put back',
    [
      joins(1),
      someone(2, 'member-bounced', { personal: null }),
      someone(3, 'member-restored', { status: 'confirmed' }),
    ],
    { '2026-09-01': [1, 0] },
  ],
  [
    'an import undone',
    [
      someone(1, 'member-written', {
        batch: 'b',
        joinedAt: '2026-08-01T10:00:00Z',
        status: 'confirmed',
        personal: null,
      }),
      many(2, { kind: 'withdraw' }),
    ],
    {},
  ],
  [
    'left, and joined once more',
    [joins(1), someone(2, 'member-left', { by: 'page' }), joins(3)],
    { '2026-09-01': [1, 0], '2026-09-02': [0, 1], '2026-09-03': [1, 0] },
  ],
  [
    'off, back, off again',
    [
      joins(1),
      someone(2, 'member-removed'),
      someone(3, 'member-restored', { status: 'confirmed' }),
      someone(4, 'member-removed'),
    ],
    { '2026-09-01': [1, 0], '2026-09-04': [0, 1] },
  ],
])('growth: %s', (_, entries, expected) => {
  const moved = counted(entries)
    .growthOf('l' as ListId)
    .filter(({ came, left }) => came + left !== 0)
  expect(Object.fromEntries(moved.map(({ day, came, left }) => [day, [came, left]]))).toEqual(expected)
})

test('rates are of sign-ups whose views were counted; where none are, they are not known', () => {
  const { rows } = counted(
    ['2026-09-01', '2026-09-02', '2026-09-02'].map((day, at) => ({
      // One came by plain code that stands on the same page: nothing counted its view.
      ...(at > 0 && { viewed: true }),
      ...{ n: at + 1, kind: 'arrival', at: `${day}T10:00:00Z`, id: `a${at}`, spot: 'spot1', form: 'f', version: 1 },
      ...{ list: 'l' as ListId, verdict: 'joined', member: `m${at}`, personal: null, commitment: '' },
    })) as unknown as Entry[],
  ).results()
  const seen = { day: '2026-09-02', spot: 'spot1', version: 1, source: '', device: 'phone' } as Omit<
    SeenRow,
    'views' | 'starts' | 'setAside'
  >
  const formOf = new Map([['spot1', 'f']]) as never
  const lines = (views: number | null) =>
    resultLines({
      by: 'spot',
      looked: { from: '2026-09-01', to: '2026-09-30' },
      signUps: rows,
      seen: views === null ? [] : [{ ...seen, views, starts: 3, setAside: 2 }],
      formOf,
    })
  expect(lines(80)).toMatchObject([{ signUps: 3, views: 80, starts: 3, setAside: 2, rate: { count: 2, of: 80 } }])
  expect(lines(null)).toMatchObject([{ signUps: 3, views: null, starts: null, rate: null }])
  expect(lines(1)).toMatchObject([{ views: 1, rate: null }])
})

test('hours, delays and growth of what is looked at', () => {
  const people = {
    rows: [],
    growth: [
      { day: '2026-09-01', list: 'l1' as ListId, came: 3, brought: 0, left: 1 },
      { day: '2026-09-02', list: 'l2' as ListId, came: 5, brought: 0, left: 0 },
      { day: '2026-10-01', list: 'l1' as ListId, came: 9, brought: 0, left: 9 },
    ],
    hours: [
      { day: '2026-09-04', hour: 17, spot: 'a' as never, signUps: 4 },
      { day: '2026-09-11', hour: 17, spot: 'a' as never, signUps: 2 },
      { day: '2026-09-07', hour: 0, spot: 'b' as never, signUps: 1 },
    ],
    delays: [60_000, 300_000, 300_001, 3_600_001, 86_400_001, 9e9].map((ms) => ({
      ...{ day: '2026-09-04', spot: 'a' as never, ms },
    })),
  }
  const all = comingsAndGoings(people, { from: '2026-09-01', to: '2026-09-30', spots: null, lists: null })
  // The 4th and 11th of September 2026 are Fridays, the 7th a Monday.
  expect([all.hours[4]![17], all.hours[0]![0], all.hours.flat().reduce((sum, one) => sum + one)]).toEqual([6, 1, 7])
  expect(all.delays.buckets.map(({ count }) => count)).toEqual([2, 1, 1, 0, 1, 1])
  expect(all.growth).toHaveLength(2)
  const part = comingsAndGoings(people, {
    ...{ from: '2026-09-05', to: '2026-09-30', spots: ['b' as never], lists: ['l1' as ListId] },
  })
  expect([part.hours[4]![17], part.hours[0]![0], part.delays.count, part.growth]).toEqual([0, 1, 0, []])
})

test.each([
  ['made lately', '2026-11-01', null, false],
  ['never brought anybody', '2026-06-01', null, true],
  ['brought somebody lately', '2026-06-01', '2026-10-15', false],
  ['brought somebody long ago', '2026-06-01', '2026-08-15', true],
])('a form that %s: made %s, last used %s, offered for tidying up: %s', (_, made, last, isUnused) => {
  const row = { spot: 's', version: 1, source: '', signUps: 1, viewed: 1, asked: 0, confirmed: 1, already: 0, bots: 0 }
  const people = last === null ? [] : [{ ...row, day: last, form: 'f' }]
  const form = { id: 'f' as never, createdAt: `${made}T00:00:00Z`, publishedAt: null }
  const published = { ...form, publishedAt: '2026-11-16T00:00:00Z' }
  expect(unusedForms([published], people as never, '2026-11-20')).toEqual([])
  expect(unusedForms([form], people as never, '2026-11-20')).toEqual(isUnused ? [{ id: 'f', last }] : [])
})

/** Knuth, "The Art of Computer Programming", volume 2, section 3.4.1: so many until the product falls below. */
function poisson(random: () => number, mean: number): number {
  let count = 0
  for (let product = random(); product > Math.exp(-mean); product *= random()) count += 1
  return count
}

describe('the rhythm of a form', () => {
  test('property: the chance of so few is that of the Poisson distribution of jStat', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 60 }), fc.double({ min: 0.01, max: 80, noNaN: true }), (k, mean) => {
        expect(poissonAtMost(k, mean)).toBeCloseTo(jStat.poisson.cdf(k, mean), 8)
      }),
    )
  })
  const today = '2026-11-20'
  const daily = (count: number, until: number) =>
    new Map(Array.from({ length: 60 }, (_, at) => [dayAfter(today, -1 - at), at < until ? 0 : count]))
  test.each([
    ['three a day, then nobody for three days', daily(3, 3), 'quiet'],
    ['three a day', daily(3, 0), 'usual'],
    ['one in a while, then nobody', new Map([[dayAfter(today, -40), 5]]), 'unknown'],
  ])('%s', (_, perDay, kind) => expect(rhythmOf(perDay, dayAfter(today, -60), today).kind).toBe(kind))
  // Weekly shapes as made-up sites have them: weekdays alone, every second Monday, an evening a week, once a month in a crowd.
  test.each<[string, (random: () => number, day: Date, week: number) => number]>([
    ['nobody at weekends', (random, day) => (day.getUTCDay() % 6 === 0 ? 0 : poisson(random, 4))],
    ['every second Monday', (random, day, week) => (day.getUTCDay() === 1 && week % 2 === 0 ? poisson(random, 14) : 0)],
    ['Tuesday evenings', (random, day) => (day.getUTCDay() === 2 ? poisson(random, 9) : poisson(random, 0.2))],
    ['in a crowd now and then', (random) => (random() < 0.1 ? 20 : 0)],
    ['evenly', (random) => poisson(random, 3)],
  ])('%s: called quiet on at most 1 day in 100', (_, come) => {
    const random = generator(9)
    const days = Array.from({ length: 2_000 }, (_, at) => dayAfter('2020-01-06', at))
    const perDay = new Map(days.map((day, at) => [day, come(random, new Date(day), Math.floor(at / 7))]))
    const judged = days.slice(60).map((day) => rhythmOf(perDay, days[0]!, day).kind)
    expect(judged.filter((kind) => kind === 'quiet').length / judged.length).toBeLessThanOrEqual(0.01)
    // And when nobody comes any more, it is said within two weeks, but for what comes now and then.
    if (_ === 'in a crowd now and then' || _ === 'every second Monday') return
    const end = days[1_500]!
    const ended = new Map([...perDay].filter(([day]) => day < end))
    const said = Array.from({ length: 14 }, (_, at) => rhythmOf(ended, days[0]!, dayAfter(end, at + 1)).kind)
    expect(said).toContain('quiet')
  })
  test('is told with how it is judged', () => {
    const rhythm = rhythmOf(daily(3, 3), dayAfter(today, -60), today)
    expect(rhythm.kind === 'quiet' && quietWords(rhythm)).toBe('usually 9 in 3 days, now 0: less likely than 1 in 200')
    expect(rhythmOf(new Map(), null, today)).toEqual({ kind: 'unknown' })
  })
  test('a week is held against the weeks before', () => {
    const weeks = (counts: number[]) => new Map(counts.map((count, at) => [dayAfter(today, -1 - 7 * at), count]))
    const first = dayAfter(today, -60)
    expect(weekWords(weeks([5, 4, 6, 5, 5]), first, today)).toBe('as in most weeks')
    expect(weekWords(weeks([15, 4, 6, 5, 5, 5, 5]), first, today)).toBe('more than in most weeks')
    expect(weekWords(weeks([0, 4, 6, 5, 5, 5, 5, 5]), first, today)).toBe('fewer than in most weeks')
    expect(weekWords(weeks([0]), dayAfter(today, -10), today)).toBe('')
  })
})

describe('growth', () => {
  const row = (day: string, came: number, left = 0) => ({ day, list: 'l' as ListId, came, brought: 0, left })
  test.each([
    ['nobody', [], [], []],
    [
      'quiet days between',
      [row('2026-11-27', 2), row('2026-11-29', 1, 3)],
      null,
      [
        ['2026-11-27', 2, 0, 2],
        ['2026-11-28', 0, 0, 2],
        ['2026-11-29', 1, 3, 0],
      ],
    ],
    [
      'what was before its first day',
      [row('2026-11-01', 5), row('2026-11-28', 1)],
      ['2026-11-28', '2026-11-29'],
      [
        ['2026-11-28', 1, 0, 6],
        ['2026-11-29', 0, 0, 6],
      ],
    ],
    [
      'months, of many days',
      [row('2026-08-31', 5), row('2026-11-28', 1, 2)],
      null,
      [
        ['2026-08', 5, 0, 5],
        ['2026-09', 0, 0, 5],
        ['2026-10', 0, 0, 5],
        ['2026-11', 1, 2, 4],
      ],
    ],
  ])('tells %s', (_, rows, days, spans) => {
    expect(
      growthSpans(rows, days ?? growthDays(rows)).map(({ span, came, left, total }) => [span, came, left, total]),
    ).toEqual(spans)
  })
})
