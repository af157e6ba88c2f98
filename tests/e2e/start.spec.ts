import { spawn } from 'node:child_process'
import { createServer, type Server } from 'node:net'
import { mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { expect, test } from '@playwright/test'
import { rowsOfThisRun } from '../seed'

const root = resolve(import.meta.dirname, '../..')
const demo = join(root, 'demo/cloudberry-hill.json')
const newFolder = () => mkdtempSync(join(tmpdir(), 'ask-box-start-'))

interface Ended {
  code: number | null
  said: string
}

/** Starts a built program or a script; resolves when it has ended, or with `ready` once it is, and then ends it. */
function run(args: string[], environment: Record<string, string>, killAfterMs?: number): Promise<Ended> {
  const child = spawn(process.execPath, args, {
    cwd: root,
    env: { ...process.env, ASKBOX_LOG: 'text', ASKBOX_PUBLIC_URL: '', ASKBOX_KEY: '', ...environment },
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  return new Promise((done) => {
    let said = ''
    child.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()))
    child.stdout.on('data', (chunk: Buffer) => {
      if (/^ready /m.test(chunk.toString())) said += 'ready'
      if (killAfterMs === undefined && said.endsWith('ready')) child.kill('SIGTERM')
    })
    const timer = killAfterMs === undefined ? undefined : setTimeout(() => child.kill('SIGKILL'), killAfterMs)
    child.once('exit', (code) => {
      clearTimeout(timer)
      // The tests may well run as root, who is warned.
      done({ code, said: said.replace(/^The receiver runs as root.*\n/m, '').trim() })
    })
  })
}
const receiver = (environment: Record<string, string>, killAfterMs?: number, more: string[] = []) =>
  run([join(root, 'dist/server/receiver.js'), ...more], environment, killAfterMs)

function held(): Promise<Server & { port: number }> {
  const server = createServer() as Server & { port: number }
  return new Promise((done) =>
    server.listen(0, '127.0.0.1', () =>
      done(Object.assign(server, { port: (server.address() as { port: number }).port })),
    ),
  )
}

test('a start that cannot be says why in one line, and ends with a failure', { tag: '@way' }, async () => {
  const emptyKey = newFolder()
  writeFileSync(join(emptyKey, 'owner.key'), '\n')
  const noFolder = join(newFolder(), 'file')
  writeFileSync(noFolder, '')
  const taken = await held()
  const cases: [Record<string, string>, RegExp][] = [
    [{ ASKBOX_DATA: emptyKey, ASKBOX_PORT: '4391' }, /owner\.key is empty or damaged/],
    [{ ASKBOX_DATA: join(noFolder, 'inside'), ASKBOX_PORT: '4391' }, /ASKBOX_DATA.*cannot be used.*is a file/],
    [{ ASKBOX_DATA: newFolder(), ASKBOX_PORT: String(taken.port) }, /ASKBOX_PORT.*in use/],
    [{ ASKBOX_DATA: newFolder(), ASKBOX_PORT: '0' }, /^ASKBOX_PORT must be/],
    [
      { ASKBOX_DATA: newFolder(), ASKBOX_HOST: '192.0.2.1', ASKBOX_PORT: '4391' },
      /ASKBOX_HOST is 192\.0\.2\.1, which is no/,
    ],
    [{ ASKBOX_DATA: newFolder(), ASKBOX_PRT: '4391' }, /^ASKBOX_PRT is no setting\. Did you mean ASKBOX_PORT\?$/],
    [{ ASKBOX_DATA: newFolder(), ASKBOX_PUBLIC_URL: 'https://a:b@forms.example' }, /^ASKBOX_PUBLIC_URL must be/],
  ]
  for (const [environment, says] of cases) {
    const { code, said } = await receiver(environment)
    expect([code, said.split('\n').length]).toEqual([2, 1])
    expect(said).toMatch(says)
  }
  // All of it together, too: a part that does not start is a failure of the whole.
  const whole = await run([join(root, 'scripts/start.mjs')], {
    ASKBOX_DATA: newFolder(),
    ASKBOX_PORT: String(taken.port),
    ASKBOX_SITES_PORT: '4392',
  })
  expect(whole.code).toBe(2)
  taken.close()
})

test('a first start that is killed at any moment leaves a folder that the next one takes up, with all of the demo', async () => {
  for (const killAfterMs of rowsOfThisRun([150, 220, 260, 300, 340, 380, 420, 480, 560, 650], 4)) {
    const folder = newFolder()
    const port = await held().then((server) => new Promise<number>((done) => server.close(() => done(server.port))))
    await receiver({ ASKBOX_DATA: folder, ASKBOX_PORT: String(port) }, killAfterMs, ['--demo', demo])
    const again = await receiver({ ASKBOX_DATA: folder, ASKBOX_PORT: String(port) }, undefined, ['--demo', demo])
    expect(again).toEqual({ code: 0, said: 'ready' })
    for (const file of readdirSync(folder)) expect([file, statSync(join(folder, file)).mode & 0o077]).toEqual([file, 0])
    rmSync(folder, { recursive: true, force: true })
  }
})
