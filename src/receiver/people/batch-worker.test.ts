import { BatchWorker } from './batch-worker'
import type { Job } from '../work/tables'
import type { Ledger } from '../ledger'

afterEach(() => {
  jest.useRealTimers()
  jest.restoreAllMocks()
})

test('a batch that cannot be applied is tried again later, then stopped, and those behind it have their turn', async () => {
  jest.useFakeTimers()
  jest.spyOn(console, 'error').mockImplementation(() => {})
  const jobs = new Map(['broken', 'sound'].map((id) => [id, { id, due: 0, state: 'open', said: '' }]))
  const tries: string[] = []
  const stopped: string[] = []
  const waiting = () => [...jobs.values()].filter(({ state }) => state === 'open')
  const ledger = {
    onNews: () => () => {},
    queue: {
      // One at a time, in order: the first that is not at its end holds those behind it up.
      due: async () =>
        waiting()
          .slice(0, 1)
          .filter(({ due }) => due <= Date.now()) as Job[],
      nextDue: async () => waiting()[0]?.due ?? null,
      take: async () => true,
      turn: () => ({ mine: async () => 'kept', letGo: async () => {} }),
      holdOn: async () => {},
      settle: async (id: string, { state, said, due = 0 }: { state: string; said: string; due?: number }) => {
        Object.assign(jobs.get(id)!, state === 'later' ? { due, said } : { state, said })
      },
    },
    batches: {
      step: async (id: string) => {
        tries.push(id)
        if (id === 'broken') throw new Error('disk full')
        return null
      },
      stop: async (id: string) => stopped.push(id),
    },
  } as unknown as Ledger
  const end = new BatchWorker(ledger, Date.now).start()
  await jest.advanceTimersByTimeAsync(3_600_000)
  await end()
  expect(tries).toEqual(['broken', 'broken', 'broken', 'broken', 'broken', 'sound'])
  expect(stopped).toEqual(['broken'])
  expect([...jobs.values()]).toMatchObject([{ state: 'refused', said: 'disk full' }, { state: 'done' }])
})
