import { spawnSync } from 'node:child_process'

/** Of the tests that are no way of their own, a short run has one in so many: seeds that follow each other have all. */
export const PARTS = 8

/**
 * Which end-to-end tests a short run has: what is tagged `@way` (each way that an owner or a visitor goes, once), whatever
 * belongs to folders that changed, and of all others a share by the seed.
 *
 * @param changed paths from the project's folder
 * @param specs what each file of tests is about: `tests/e2e/specs.mjs`
 */
export function chosenTests(tests, seed, changed, specs) {
  let next = 0
  const places = new Map()
  const placeOf = ({ file, titles }) => {
    const unit = specs[file]?.together ? file : `${file}\0${titles.join('\0')}`
    if (!places.has(unit)) places.set(unit, next++)
    return places.get(unit)
  }
  const hasChanged = (file) =>
    changed.some((path) => path === `tests/e2e/${file}` || specs[file]?.of.some((folder) => path.startsWith(folder)))
  return tests.filter((test) => {
    const isWay = test.tags.includes('way')
    // Ways take no place among those that are chosen, so that each run has as many.
    return isWay || hasChanged(test.file) || placeOf(test) % PARTS === seed % PARTS
  })
}

/** Paths that differ from what others have: committed or not. Empty where there is no `origin/main` to tell. */
export function changedPaths(root) {
  const git = (...args) => spawnSync('git', args, { cwd: root, encoding: 'utf8' })
  const base = git('merge-base', 'HEAD', 'origin/main')
  if (base.status !== 0) return []
  const lines = ({ stdout }) => stdout.split('\n').filter(Boolean)
  return [
    ...lines(git('diff', '--name-only', base.stdout.trim())),
    ...lines(git('ls-files', '--others', '--exclude-standard')),
  ]
}

/** The tests of Playwright's JSON list. */
export function listedTests({ suites }) {
  const below = (suite, titles) => [
    ...(suite.specs ?? []).flatMap(({ file, title, tags, tests }) =>
      tests.map(({ projectName }) => ({ file, project: projectName, titles: [...titles, title], tags: tags ?? [] })),
    ),
    ...(suite.suites ?? []).flatMap((inner) => below(inner, [...titles, inner.title])),
  ]
  return suites.flatMap((suite) => below(suite, []))
}

/** A line of Playwright's `--test-list`. */
export const testListLine = ({ project, file, titles }) => [`[${project}]`, file, ...titles].join(' › ')
