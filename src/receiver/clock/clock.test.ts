import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { startMail } from '#core/message'
import { signUp } from '../../../tests/store-suite'
import { list, workspace } from '../../../tests/tables/samples'
import { openClock } from './wall-clock'
import { complain } from '../log'
import { lastWritten } from '../people'
import { openLedger } from '../ledger'
import { openStore } from '../subjects'

const MINUTE = 60_000
const HOUR = 60 * MINUTE
const DAY = 24 * HOUR
const BEGIN = Date.parse('2026-03-01T12:00:00.000Z')

/** A computer whose time passes, and whose clock can be set. */
function computer(lastWritten: number | null = null, ahead = 0) {
  const time = { passed: 0, ahead }
  const clock = openClock(
    () => BEGIN + time.passed + time.ahead,
    () => 1_000 + time.passed,
    lastWritten,
  )
  return {
    clock,
    pass(ms: number) {
      time.passed += ms
      return clock.now()
    },
    set: (to: number) => (time.ahead = to),
    /** By how much the two times are off what really passed. */
    off: () => [clock.now() - BEGIN - time.passed, clock.sureNow() - BEGIN - time.passed],
  }
}

test('a clock that is right is followed, with corrections by seconds', () => {
  const { clock, pass, set, off } = computer()
  for (const ahead of [0, 900, -400, 3_000]) {
    set(ahead)
    pass(HOUR)
    expect(off()).toEqual([ahead, ahead])
    expect(clock.leap()).toBeNull()
  }
})

test.each([
  ['eight days ahead for three seconds', 8 * DAY, 3_000],
  ['four minutes ahead for four minutes', 4 * MINUTE, 4 * MINUTE],
  ['a year back for five minutes', -365 * DAY, 5 * MINUTE],
  ['before 1970 for a minute', -BEGIN - DAY, MINUTE],
])('%s: nothing comes of it, and its owner is told meanwhile', (_, ahead, ms) => {
  const { clock, pass, set, off } = computer()
  pass(HOUR)
  set(ahead)
  pass(ms)
  expect(off()).toEqual([0, 0])
  expect(clock.leap()).toMatchObject({ by: ahead, isSinceStart: false })
  set(0)
  pass(1_000)
  expect(off()).toEqual([0, 0])
  expect(clock.leap()).toBeNull()
})

test('a leap ahead that holds is written after ten minutes, ends something after an hour more, or when confirmed', () => {
  const { clock, pass, set, off } = computer()
  set(8 * DAY)
  for (let at = 0; at < 9; at++) pass(MINUTE)
  expect(off()).toEqual([0, 0])
  for (let at = 0; at < 3; at++) pass(MINUTE)
  expect(off()).toEqual([8 * DAY, 0])
  for (let at = 0; at < 50; at++) pass(MINUTE)
  expect(off()).toEqual([8 * DAY, 0])
  for (let at = 0; at < 20; at++) pass(MINUTE)
  expect(off()).toEqual([8 * DAY, 8 * DAY])
  set(20 * DAY)
  pass(1_000)
  clock.confirm()
  expect(off()).toEqual([20 * DAY, 20 * DAY])
  expect(clock.leap()).toBeNull()
})

test('a start long after the last thing written, or before it, is a leap until it has held', () => {
  const late = computer(BEGIN - 9 * DAY)
  expect(late.off()).toEqual([0, -9 * DAY])
  expect(late.clock.leap()).toMatchObject({ by: 9 * DAY, isSinceStart: true })
  late.pass(61 * MINUTE)
  expect(late.off()).toEqual([0, 0])

  const early = computer(BEGIN + 3 * HOUR)
  expect(early.off()[0]).toBe(3 * HOUR)
  expect(early.clock.leap()).toMatchObject({ by: -3 * HOUR, isSinceStart: true })
  const told: number[] = []
  early.clock.onSetBack((by) => told.push(by))
  for (let at = 0; at < 30; at++) early.pass(MINUTE)
  // It has held: what is written from now on is dated right, and what ends by time waits an hour more.
  expect(early.off()[0]).toBe(0)
  expect(told).toEqual([3 * HOUR])
  early.pass(4 * HOUR)
  expect(early.off()).toEqual([0, 0])

  expect(computer(BEGIN - HOUR).clock.leap()).toBeNull()
})

test('who waits is not removed by a clock that was wrong for a moment, and is once the time has really come', async () => {
  const time = { passed: 0, ahead: 0 }
  const clock = openClock(
    () => BEGIN + time.passed + time.ahead,
    () => time.passed,
    null,
  )
  const engine = await openStore(mkdtempSync(join(tmpdir(), 'ask-box-clock-')))
  const ledger = await openLedger(engine, clock.now, clock.sureNow)
  await ledger.seed(workspace)
  const draft = { ...startMail(list.id, list.name).draft, confirm: 'always' as const, senderAddress: 'a@hill.example' }
  await ledger.takeChanges([{ kind: 'mail', key: list.id, base: 0, body: { list: list.id, draft, published: draft } }])
  expect(await ledger.signUp(signUp('ada@m.example'), 'a')).toMatchObject({ verdict: 'confirm-first' })
  for (const ahead of [8 * DAY, -400 * DAY]) {
    time.ahead = ahead
    expect(await ledger.expireWaiting()).toBe(0)
    time.passed += 3_000
    expect(await ledger.expireWaiting()).toBe(0)
    // Whoever signs up meanwhile is written down at the right time, and gets mail at once.
    expect(await ledger.signUp(signUp(`at${Math.abs(ahead)}@m.example`), `${ahead}`)).toMatchObject({
      isMailHeld: false,
    })
    await expect(ledger.checkHealth()).resolves.toBeUndefined()
    time.ahead = 0
    clock.now()
  }
  expect(await ledger.queue.due('mail', 10)).toHaveLength(3)
  const times = (await ledger.entriesAfter(0, null, 10))!.items.map(({ at }) => Date.parse(at) - BEGIN)
  expect(times).toEqual([0, 3_000, 6_000])
  expect(await lastWritten(engine.now)).toBeGreaterThanOrEqual(BEGIN + 6_000)
  time.passed += 8 * DAY
  expect(await ledger.expireWaiting()).toBe(3)
  await ledger.close()
})

test('twenty days ahead at a start: once the clock is right again, so are the times, and what was put off comes', async () => {
  const time = { passed: 0, ahead: 20 * DAY }
  const clock = openClock(
    () => BEGIN + time.passed + time.ahead,
    () => time.passed,
    BEGIN - HOUR,
  )
  const engine = await openStore(mkdtempSync(join(tmpdir(), 'ask-box-ahead-')))
  const ledger = await openLedger(engine, clock.now, clock.sureNow)
  clock.onSetBack((byMs) => void ledger.queue.setBack(byMs))
  await ledger.seed(workspace)
  const draft = { ...startMail(list.id, list.name).draft, confirm: 'always' as const, senderAddress: 'a@hill.example' }
  await ledger.takeChanges([{ kind: 'mail', key: list.id, base: 0, body: { list: list.id, draft, published: draft } }])
  await ledger.signUp(signUp('ada@m.example'), 'a')
  time.ahead = 0
  for (let at = 0; at < 12; at++) {
    time.passed += MINUTE
    clock.now()
  }
  expect(clock.now()).toBe(BEGIN + time.passed)
  // The same once more is no repetition of what was answered in a time that never came.
  expect(await ledger.signUp(signUp('ada@m.example'), 'a')).toMatchObject({ repeated: false })
  await ledger.signUp(signUp('bea@m.example'), 'b')
  // Two to one who asked twice, one to the other.
  expect(await ledger.queue.due('mail', 10)).toHaveLength(3)
  const { items } = (await ledger.entriesAfter(0, null, 10))!
  expect(items.map(({ at }) => Math.round((Date.parse(at) - BEGIN) / DAY))).toEqual([20, 0, 0])
  await ledger.close()
})

test('whatever the clock is set to, written times go back only by a leap that has held', () => {
  const step = fc.tuple(fc.integer({ min: 0, max: 20 * MINUTE }), fc.integer({ min: -20_000 * DAY, max: 20_000 * DAY }))
  fc.assert(
    fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
      const { clock, pass, set } = computer(BEGIN)
      let before = clock.now()
      let isSetBack = false
      clock.onSetBack(() => (isSetBack = true))
      for (const [ms, ahead] of steps) {
        set(ahead)
        const now = pass(ms)
        if (!isSetBack) expect(now).toBeGreaterThanOrEqual(before)
        isSetBack = false
        before = now
      }
    }),
  )
})

test('what goes wrong again and again is logged once a minute', () => {
  const said: unknown[] = []
  const full = () => Object.assign(new Error(`no room for ${said.length}`), { code: 'SQLITE_FULL' })
  for (let at = 0; at < 50; at++) complain(full(), undefined, (what) => said.push(what))
  complain(new Error('another'), undefined, (what) => said.push(what))
  expect(said).toHaveLength(2)
})
