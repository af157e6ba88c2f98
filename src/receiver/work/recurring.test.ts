import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { type Ledger, openLedger } from '../ledger'
import { openStore } from '../subjects'
import { type RecurringJob, runRecurring } from '.'

let folder: string
let ledger: Ledger
let time: number
let ends: (() => void)[]
let stops: (() => Promise<void>)[]
beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'jobs-'))
  time = Date.parse('2026-03-01T12:00:00.000Z')
  ledger = await openLedger(await openStore(folder), () => time)
  stops = []
  ends = []
})
afterEach(async () => {
  for (const end of ends) end()
  await Promise.all(stops.map((stop) => stop()))
  await ledger.close()
  rmSync(folder, { recursive: true, force: true })
})

/** Another process over the same store. */
const start = (...jobs: RecurringJob[]) => stops.push(runRecurring(jobs, ledger.values, () => time, 1))
/** So many commits later, each of which waited for a turn of its own, everybody has looked. */
async function looks(many: number): Promise<void> {
  for (let look = 0; look < many; look++) {
    await new Promise((resolve) => setTimeout(resolve, 5))
    await ledger.values.keep('look', look)
  }
}

/** A job that is at work until it is told to end. */
function work(changes: Partial<RecurringJob> = {}) {
  let [begun, atOnce, most] = [0, 0, 0]
  let end: () => void = () => {}
  const job: RecurringJob = {
    name: 'work',
    everyMs: 1_000,
    firstAfterMs: 0,
    longestMs: 10_000,
    async run() {
      begun += 1
      most = Math.max(most, ++atOnce)
      await new Promise<void>((resolve) => (end = resolve))
      atOnce -= 1
    },
    ...changes,
  }
  ends.push(() => end())
  return { job, counts: () => ({ begun, most }), end: () => end() }
}

test('what is due is done by one of those who share a store, not twice at once, and again when its time has come', async () => {
  const { job, counts, end } = work()
  start(job)
  start(job)
  await looks(5)
  expect(counts()).toEqual({ begun: 1, most: 1 })
  time += 1_500
  await looks(5)
  // Still at work.
  expect(counts()).toEqual({ begun: 1, most: 1 })
  end()
  await looks(5)
  expect(counts()).toEqual({ begun: 2, most: 1 })
  end()
  await looks(5)
  expect(counts()).toEqual({ begun: 2, most: 1 })
})

test('who ends in the middle lets go after a while; a start does nothing anew', async () => {
  const { job, counts } = work()
  start(job)
  await looks(3)
  // Its process is gone without a word.
  void stops.pop()!()
  const next = work()
  start(next.job)
  time += 5_000
  await looks(3)
  expect([counts().begun, next.counts().begun]).toEqual([1, 0])
  time += 6_000
  await looks(3)
  expect(next.counts().begun).toBe(1)
  next.end()
  await looks(3)
  await stops.pop()!()
  const later = work()
  start(later.job)
  await looks(3)
  expect(later.counts().begun).toBe(0)
})

test('one that fails is told of, holds up no other, and is tried again', async () => {
  const told = jest.spyOn(console, 'error').mockImplementation(() => {})
  const fails = { ...work().job, name: 'fails', run: jest.fn(() => Promise.reject(new Error('no'))) }
  const first = { ...work().job, name: 'later', firstAfterMs: 2_500, run: jest.fn(() => Promise.resolve()) }
  start(fails, first)
  await looks(3)
  time += 1_500
  await looks(3)
  expect([fails.run.mock.calls.length, first.run.mock.calls.length]).toEqual([2, 0])
  time += 1_500
  await looks(3)
  expect([fails.run.mock.calls.length, first.run.mock.calls.length]).toEqual([3, 1])
  expect(told).toHaveBeenCalled()
  told.mockRestore()
})

test('stopping waits for what is at work', async () => {
  const { job, counts, end } = work()
  start(job)
  await looks(3)
  let isOver = false
  const stopped = stops.pop()!().then(() => (isOver = true))
  await looks(3)
  expect([counts().begun, isOver]).toEqual([1, false])
  end()
  await stopped
})
