import { type ChildProcess, spawn } from 'node:child_process'
import { once } from 'node:events'
import { connect } from 'node:net'
import type { Arrival } from '#core/journal'
import { entriesAfter } from '../api'
import { comingVisitors, killOften, receiverOf } from '../kills'
import { end, startBox } from '../programs'
import { expect, test } from './box'

test(
  'killed under load, the receiver keeps every sign-up that it answered with success',
  { tag: '@way' },
  async ({ box }) => {
    // Thirty visitors at a time, each with one sign-up after the other.
    const visitors = comingVisitors(box, 'opennights', 30)
    const { answered } = visitors
    await killOften(1, [receiverOf(box)], { done: () => answered.length, enough: () => 300, withinMs: 50 })
    await visitors.go()
    const stored = new Set<string>()
    for (let after = 0; ;) {
      const response = await fetch(`${box.workshop}/api/journal?after=${after}`, {
        headers: { Authorization: `Bearer ${box.key}` },
      })
      const { entries, latest } = (await response.json()) as {
        entries: { n: number; personal?: { email?: { typed: string } | null } }[]
        latest: number
      }
      for (const { personal } of entries) if (personal?.email) stored.add(personal.email.typed)
      after = entries.at(-1)?.n ?? latest
      if (after >= latest) break
    }
    expect(answered.filter((email) => !stored.has(email))).toEqual([])
  },
)

/** The kernel keeps what a killed process has written, so only the calls themselves show that it went to the disk. */
test('no sign-up is answered before it is synced to the disk', async ({ box }) => {
  const trace = await traceSyncs(box.receiver.pid!)
  test.skip(trace === null, 'This machine has no strace, or forbids it.')
  const syncs: number[] = []
  for (let at = 0; at < 10; at++) {
    const before = trace!.count()
    const response = await fetch(`${box.workshop}/join/opennights`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ email: `synced-${at}@mail.example` }),
    })
    expect(response.status).toBe(200)
    // The line about a call is written before the call returns.
    await expect.poll(() => trace!.count()).toBeGreaterThan(before)
    syncs.push(trace!.count() - before)
  }
  await end(trace!.child, 'SIGINT')
  expect(syncs.every((count) => count > 0)).toBe(true)
})

/** Counts the calls by which a process syncs files to the disk; null where that cannot be watched. */
async function traceSyncs(pid: number): Promise<{ child: ChildProcess; count: () => number } | null> {
  const child = spawn('strace', ['-f', '-e', 'trace=fsync,fdatasync', '-p', String(pid)], {
    stdio: ['ignore', 'ignore', 'pipe'],
  })
  let said = ''
  const isAttached = await new Promise<boolean>((resolve) => {
    child.stderr.on('data', (chunk: Buffer) => {
      said += chunk.toString()
      if (said.includes('attached')) resolve(true)
    })
    child.once('error', () => resolve(false))
    child.once('exit', () => resolve(false))
  })
  return isAttached ? { child, count: () => said.match(/\bf(?:data)?sync\(/g)?.length ?? 0 } : null
}

test('fifty at once with one address, and an impatient double click, make one member each', async ({ box, page }) => {
  const post = (extra: number) =>
    fetch(`${box.workshop}/join/opennights`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ email: 'Fifty@mail.example', extra: String(extra % 25) }),
    }).then((response) => response.json() as Promise<{ outcome: string }>)
  const outcomes = (await Promise.all(Array.from({ length: 50 }, (_, at) => post(at)))).map(({ outcome }) => outcome)
  // One try joined and its retry hears the same; the other 24 tries and theirs were on the list already.
  expect([
    outcomes.filter((one) => one === 'joined').length,
    outcomes.filter((one) => one === 'already-on-list').length,
  ]).toEqual([2, 48])

  await page.goto(`${box.sites}/observatory/posts/open-nights`)
  await page.getByLabel('Email').fill('impatient@mail.example')
  await page.getByRole('button', { name: 'Tell me at four' }).dblclick()
  await expect(page.getByRole('heading', { name: 'You are on the list' })).toBeVisible()

  const { entries } = (await (
    await fetch(`${box.workshop}/api/journal?after=410`, { headers: { Authorization: `Bearer ${box.key}` } })
  ).json()) as {
    entries: { personal?: { email?: { compared: string } | null }; verdict?: string }[]
  }
  for (const address of ['fifty@mail.example', 'impatient@mail.example']) {
    expect(
      entries.filter(({ personal, verdict }) => personal?.email?.compared === address && verdict === 'joined'),
    ).toHaveLength(1)
  }
})

test('health says when sign-ups can be stored; another spelling of the workshop’s address leads to the one that was printed', async ({
  box,
  page,
}) => {
  const health = await fetch(`${box.workshop}/health`)
  expect([health.status, await health.json()]).toEqual([
    200,
    { status: 'ok', version: expect.stringMatching(/^\d+\.\d+\.\d+$/) },
  ])
  await page.goto(`${box.workshop.replace('localhost', '127.0.0.1')}/lists#x`)
  await expect(page).toHaveURL(`${box.workshop}/lists#x`)
})

test('Chromium’s own verdict on every address of the table is ours too', async ({ page }) => {
  const { emailAddresses } = await import('../tables/email-addresses')
  await page.setContent('<input type="email" required>')
  const input = page.locator('input')
  const verdicts: boolean[] = []
  for (const { address } of emailAddresses) {
    // Typed, not set: Chromium turns internationalized domains into ASCII as somebody types them.
    await input.fill('')
    await input.focus()
    await page.keyboard.insertText(address)
    verdicts.push(await input.evaluate((field: HTMLInputElement) => field.checkValidity()))
  }
  expect(emailAddresses.filter(({ isValid }, at) => verdicts[at] !== isValid)).toEqual([])
})

test('a receiver that stops takes nobody new, gives the answers in hand, ends its streams, and is gone within ten seconds', async () => {
  const box = await startBox()
  try {
    const { host, port } = { host: '127.0.0.1', port: Number(new URL(box.workshop).port) }
    const stream = await fetch(`${box.workshop}/api/stream`, { headers: { Authorization: `Bearer ${box.key}` } })
    const reader = stream.body!.getReader()
    await reader.read()
    // A sign-up whose body comes slowly, and a visitor who sends nothing at all.
    const body = 'email=just-in-time%40post.example'
    const slow = connect(port, host)
    const heard: Buffer[] = []
    slow.on('data', (chunk: Buffer) => heard.push(chunk))
    const head = `POST /join/firstfrost HTTP/1.1\r\nHost: localhost\r\nAccept: application/json\r\nContent-Type: application/x-www-form-urlencoded\r\nContent-Length: ${body.length}\r\n\r\n`
    slow.write(head + body.slice(0, 9))
    const idle = connect(port, host)
    await Promise.all([slow, idle].map((socket) => once(socket, 'connect')))
    // Read, and being answered.
    await expect.poll(() => fetch(`${box.workshop}/alive`).then(({ status }) => status)).toBe(200)

    const begun = performance.now()
    const ended = once(box.receiver, 'exit')
    box.receiver.kill('SIGTERM')
    await expect
      .poll(() =>
        fetch(`${box.workshop}/alive`).then(
          () => 'answers',
          () => 'refused',
        ),
      )
      .toBe('refused')
    while (!(await reader.read()).done);
    slow.write(body.slice(9))
    await once(slow, 'close')
    expect(Buffer.concat(heard).toString()).toMatch(/^HTTP\/1.1 200 [\s\S]*\{"outcome":"joined"\}/)
    expect((await ended)[0]).toBe(0)
    expect(performance.now() - begun).toBeLessThan(15_000)
    await box.restart()
    const people = (await entriesAfter<Arrival>(box, 0)).flatMap(({ personal }) => personal?.email?.typed ?? [])
    expect(people.filter((one) => one === 'just-in-time@post.example')).toHaveLength(1)
  } finally {
    await box.stop()
  }
})
