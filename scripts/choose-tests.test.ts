import { existsSync, readdirSync } from 'node:fs'
import { resolve } from 'node:path'
import { specs } from '../tests/e2e/specs.mjs'
import { chosenTests, listedTests, PARTS, testListLine } from './choose-tests.mjs'

const root = resolve(import.meta.dirname, '..')
const tests = ['lists.spec.ts', 'hand-over.spec.ts', 'mail.spec.ts'].flatMap((file) =>
  Array.from({ length: 7 }, (_, at) => ({
    file,
    project: 'others',
    titles: [`test ${at}`],
    tags: at === 0 && file !== 'hand-over.spec.ts' ? ['way'] : [],
  })),
)
const chosen = (seed: number, changed: string[] = []) => chosenTests(tests, seed, changed, specs)
const seeds = Array.from({ length: PARTS }, (_, seed) => seed)

test('seeds that follow each other have every test; each has every way, and whole what builds on itself', () => {
  expect(new Set(seeds.flatMap((seed) => chosen(seed)))).toEqual(new Set(tests))
  for (const seed of seeds) {
    expect(chosen(seed).filter(({ tags }) => tags.length > 0)).toHaveLength(2)
    expect([0, 7]).toContain(chosen(seed).filter(({ file }) => file === 'hand-over.spec.ts').length)
    expect(chosen(seed).length).toBeLessThan(tests.length / 2)
  }
})

test('what belongs to a folder that changed is always in', () => {
  for (const seed of seeds)
    for (const path of ['src/core/import/judge.ts', 'tests/e2e/lists.spec.ts'])
      expect(chosen(seed, [path]).filter(({ file }) => file === 'lists.spec.ts')).toHaveLength(7)
})

test('every file of tests says what it is about, by folders that are there', () => {
  const files = readdirSync(resolve(root, 'tests/e2e')).filter((name) => name.endsWith('.spec.ts'))
  expect(Object.keys(specs).sort()).toEqual(files.sort())
  const missing = Object.values(specs)
    .flatMap(({ of }) => of)
    .filter((path) => path !== 'vite.' && !existsSync(resolve(root, path)))
  expect(missing).toEqual([])
})

test('a list of Playwright’s is read with groups, and written as it takes it', () => {
  const spec = { file: 'script.spec.ts', title: 'is a dialog', tags: ['way'], tests: [{ projectName: 'others' }] }
  const [found] = listedTests({ suites: [{ title: 'script.spec.ts', suites: [{ title: 'a pop-up', specs: [spec] }] }] })
  expect(found).toEqual({
    file: 'script.spec.ts',
    project: 'others',
    titles: ['a pop-up', 'is a dialog'],
    tags: ['way'],
  })
  expect(testListLine(found!)).toBe('[others] › script.spec.ts › a pop-up › is a dialog')
})
