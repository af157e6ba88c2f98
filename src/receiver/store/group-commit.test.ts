import { GroupCommit, groupStatements } from './group-commit'

/** What was asked of the database, in order, and how often work was undone. */
function watched(told: { committed?: () => void } = {}) {
  const asked: string[] = []
  const commits = new GroupCommit(
    groupStatements({ prepare: (sql) => ({ run: () => asked.push(sql.split(' ')[0]!) }) }),
    told.committed ?? (() => {}),
  )
  return { asked, commits }
}

test('what comes together is committed once, without savepoints', async () => {
  const { asked, commits } = watched()
  expect(await Promise.all([1, 2, 3].map((n) => commits.run(async () => n)))).toEqual([1, 2, 3])
  expect(asked).toEqual(['BEGIN', 'COMMIT'])
})

test('work that throws rejects alone: all is undone and done again, and what holds is committed', async () => {
  const { asked, commits } = watched()
  const done = await Promise.allSettled([
    commits.run(async () => 'one'),
    commits.run(async () => {
      throw new Error('two')
    }),
    commits.run(async () => 'three'),
  ])
  expect(done.map((one) => (one.status === 'fulfilled' ? one.value : (one.reason as Error).message))).toEqual([
    'one',
    'two',
    'three',
  ])
  const again = ['SAVEPOINT', 'RELEASE', 'SAVEPOINT', 'ROLLBACK', 'RELEASE', 'SAVEPOINT', 'RELEASE']
  expect(asked).toEqual(['BEGIN', 'ROLLBACK', 'BEGIN', ...again, 'COMMIT'])
})

test('a listener is told once the commit is behind it, so nothing it does has the work done again', async () => {
  const seen: string[][] = []
  const { asked, commits } = watched({ committed: () => seen.push([...asked]) })
  await commits.run(async () => asked.push('work'))
  expect(seen).toEqual([['BEGIN', 'work', 'COMMIT']])
  expect(asked).toEqual(['BEGIN', 'work', 'COMMIT'])
})

test('each piece of work is done before the next begins, and what is written is seen once it is committed', async () => {
  const { asked, commits } = watched()
  const step = async (name: string) => {
    asked.push(`${name} begins`)
    await Promise.resolve()
    expect(commits.idle()).not.toBeNull()
    asked.push(`${name} ends`)
  }
  await Promise.all(['one', 'two'].map((name) => commits.run(() => step(name))))
  expect(asked).toEqual(['BEGIN', 'one begins', 'one ends', 'two begins', 'two ends', 'COMMIT'])
  expect(commits.idle()).toBeNull()
})
