import { spawn } from 'node:child_process'
import { resolve } from 'node:path'
import { end } from '../programs'
import { type Several, startSeveral } from '../several'
import { addCrowd } from './crowd'
import { load, type LoadResult } from './load'

const ROUNDS = 5
const SECONDS = 2
const CONNECTIONS = 64
const ENTRIES = 1_000_000

const median = (all: readonly number[]) => all.toSorted((one, other) => one - other)[Math.floor(all.length / 2)]!

/**
 * Receivers that share a PostgreSQL server with its standby, all on this machine, against a bare route that writes one row with
 * one commit a request into the same server; and three against one, which share its two cores with the load and the servers.
 */
export async function measureSeveral() {
  const several = await startSeveral(3, { isDurable: true })
  const primary = several.database
    .url()
    .replace(/,127\.0\.0\.1:\d+\//, '/')
    .replace('&target_session_attrs=read-write', '')
  const bare = await started(primary)
  try {
    const join = (address: string) => `${address}/join/firstfrost`
    const [one] = several.addresses.map(join)
    const all = several.addresses.map(join)
    const atOnce = async (urls: readonly string[]) => {
      const each = await Promise.all(
        urls.map((url) => load(url, { seconds: SECONDS, connections: Math.ceil(CONNECTIONS / urls.length) })),
      )
      if (each.some(({ failed }) => failed > 0)) throw new Error('Not every sign-up was answered with success.')
      return each.reduce((sum, { perSecond }) => sum + perSecond, 0)
    }
    await atOnce([one!])
    await atOnce([join(bare.address)])
    const [ours, theirs, three] = [[], [], []] as [number[], number[], number[]]
    for (let round = 0; round < ROUNDS; round++) {
      ours.push(await atOnce([one!]))
      theirs.push(await atOnce([join(bare.address)]))
      three.push(await atOnce(all))
      console.log(
        `  round ${round + 1}: one ${Math.round(ours.at(-1)!)}/s, bare ${Math.round(theirs.at(-1)!)}/s, three ${Math.round(three.at(-1)!)}/s`,
      )
    }
    const ratio = (some: readonly number[], others: readonly number[]) =>
      median(some.map((value, at) => value / others[at]!))
    await addCrowd({ workshop: several.addresses[0]!, key: several.key }, ENTRIES)
    const calm = await load(one!, { seconds: 10, connections: 20, rate: 200 })
    let isOver = false
    const pulling = pullAll(several).finally(() => (isOver = true))
    const busy: LoadResult[] = []
    do busy.push(await load(one!, { seconds: 5, connections: 20, rate: 200 }))
    while (!isOver)
    // The last one may have gone on after the end.
    const meanwhile = busy.length > 1 ? busy.slice(0, -1) : busy
    return {
      one: ratio(ours, theirs),
      three: ratio(three, ours),
      pulled: median(meanwhile.map(({ perSecond }) => perSecond)) / calm.perSecond,
      wait: median(meanwhile.map((one) => one.percentile(50))) / calm.percentile(50),
      ...(await pulling),
    }
  } finally {
    await end(bare.child)
    await several.stop()
  }
}

/** A workshop's first pull, from its first entry to the newest. */
async function pullAll({ addresses, key }: Several): Promise<{ entries: number; pulledPerSecond: number }> {
  const began = performance.now()
  for (let after = 0; ;) {
    const answer = await fetch(`${addresses[0]}/api/journal?after=${after}`, {
      headers: { Authorization: `Bearer ${key}` },
    })
    // Read by itself: parsing all would hold up the load, which is sent by this process too.
    const cursor = Number(/"cursor":(\d+)/.exec(await answer.text())![1])
    if (cursor === after) return { entries: after, pulledPerSecond: (after / (performance.now() - began)) * 1000 }
    after = cursor
  }
}

function started(url: string) {
  const child = spawn(
    process.execPath,
    ['--import', 'tsx', resolve(import.meta.dirname, 'bare-postgres.ts'), url, '0'],
    { stdio: ['ignore', 'pipe', 'inherit'] },
  )
  return new Promise<{ child: typeof child; address: string }>((done, fail) => {
    child.stdout.on('data', (chunk: Buffer) => {
      const address = /ready (\S+)/.exec(String(chunk))?.[1]
      if (address !== undefined) done({ child, address })
    })
    child.once('exit', () => fail(new Error('The bare route ended.')))
  })
}
