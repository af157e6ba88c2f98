import { expect, test } from '@playwright/test'
import { seed, times } from '../seed'
import { keptVerdicts, openCourt } from '../verdicts/judge'

/** One of so many parts of the table, by the run's seed, in a whole run too: `npm run endure` judges all of it. */
const PARTS = times({ short: 60, whole: 30, endure: 1 })
const isOfThisRun = (at: number) => at % PARTS === seed % PARTS

test('what a visitor in Chromium could do on the pages of the table is so still', async () => {
  test.setTimeout(300_000)
  const court = await openCourt()
  try {
    const kept = keptVerdicts()
    const chosen = court.cases.map((_, at) => at).filter(isOfThisRun)
    const differing: string[] = []
    let next = 0
    const work = async () => {
      while (next < chosen.length) {
        const at = chosen[next++]!
        const { name } = court.cases[at]!
        const verdict = await court.judge(court.cases[at]!)
        // A page that a busy computer did not finish is looked at once more.
        if (verdict !== kept[name] && (await court.judge(court.cases[at]!)) !== kept[name])
          differing.push(`${name}: ${kept[name]} before, ${verdict} now`)
      }
    }
    // Most of it is waiting for what does not come.
    await Promise.all([work(), work(), work(), work()])
    for (const [at, { name, isUsable }] of court.setUps.entries()) {
      if (!isOfThisRun(at)) continue
      if ((await court.canSignUp(at)) !== isUsable && (await court.canSignUp(at)) !== isUsable)
        differing.push(`${name}: a visitor ${isUsable ? 'cannot' : 'can'} sign up`)
    }
    expect([seed, differing]).toEqual([seed, []])
  } finally {
    await court.close()
  }
})
