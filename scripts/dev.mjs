import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { join } from 'node:path'
import { installDependencies, root } from './ready.mjs'

/** `npm run dev`: the same as `npm start`, with hot reload of the workshop and restarts of the servers. */
installDependencies()
const { build, createServer } = await import('vite')
const port = Number(process.env.ASKBOX_PORT || 4310)
const smtp = process.env.ASKBOX_SMTP_PORT || '4325'
const environment = {
  ...process.env,
  ASKBOX_DATA: process.env.ASKBOX_DATA || join(root, 'data/dev'),
  ASKBOX_PUBLIC_URL: `http://localhost:${port}`,
  ASKBOX_SITES_PORT: process.env.ASKBOX_SITES_PORT || '4320',
  ASKBOX_SMTP_PORT: smtp,
  ASKBOX_SERVICE_PORT: process.env.ASKBOX_SERVICE_PORT || '4330',
  ASKBOX_MAILBOX: process.env.ASKBOX_MAILBOX || join(root, 'data/dev/mailbox'),
  SMTP_URL: process.env.SMTP_URL || `smtp://127.0.0.1:${smtp}`,
}
// The workshop's development server hands on to the receiver, which has the next port.
const ports = { receiver: { ASKBOX_PORT: String(port + 1) }, sites: {}, mailbox: {}, service: {} }
let running = []
let isEnding = false

process.once('SIGINT', () => void end())
process.once('SIGTERM', () => void end())

// One process builds all of it: the servers first, since all else waits for them.
const servers = await watch('server', 'server', { minify: false, sourcemap: true })
let restarting = Promise.resolve()
servers.on('event', ({ code }) => {
  if (code === 'END') restarting = restarting.then(restart)
})
const workshop = await createServer({ configFile: join(root, 'vite.config.ts') })
await workshop.listen()
workshop.printUrls()
await watch('visitors', 'visitors')
for (const mode of ['production', 'rules', 'place']) await watch('fetched', 'visitors', {}, mode)

/** Builds now and whenever a source changes, apart from what `npm start` and the tests run. */
function watch(configuration, folder, options = {}, mode = 'production') {
  return build({
    configFile: join(root, `vite.${configuration}.config.ts`),
    mode,
    logLevel: 'warn',
    build: { outDir: join(root, 'dist/dev', folder), emptyOutDir: false, watch: {}, ...options },
  })
}

async function restart() {
  await stop()
  if (isEnding) return
  const demo = ['--demo', join(root, 'demo/cloudberry-hill.json')]
  running = Object.entries(ports).map(([name, own]) =>
    spawn(process.execPath, ['--enable-source-maps', join(root, `dist/dev/server/${name}.js`), ...demo], {
      cwd: root,
      stdio: 'inherit',
      env: { ...environment, ...own },
    }),
  )
}

async function stop() {
  const alive = running.filter(({ exitCode, signalCode }) => exitCode === null && signalCode === null)
  await Promise.all(alive.map((child) => (child.kill('SIGTERM'), once(child, 'close'))))
}

async function end() {
  isEnding = true
  await restarting
  await stop()
  process.exit()
}
