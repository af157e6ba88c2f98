import { inspect } from 'node:util'

/** Errors that a file's tests bring about are complained of and not printed; any other is. That none came is a failure. */
export function expectComplaints(expected: RegExp): void {
  const print = console.error.bind(console)
  let heard = 0
  beforeAll(() => {
    console.error = (what: unknown, ...more: unknown[]) => {
      if (expected.test(inspect(what))) heard += 1
      else print(what, ...more)
    }
  })
  afterAll(() => {
    console.error = print
    expect(heard).toBeGreaterThan(0)
  })
}
