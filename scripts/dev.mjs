import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { installDependencies, root, tool } from './ready.mjs'

/** `npm run dev`: the same as `npm start`, with hot reload of the workshop and restarts of the servers. */
installDependencies()
const demo = join(root, 'demo/cloudberry-hill.json')
const port = Number(process.env.ASKBOX_PORT || 4310)
const smtp = process.env.ASKBOX_SMTP_PORT || '4325'
const service = process.env.ASKBOX_SERVICE_PORT || '4330'
const environment = {
  ...process.env,
  ASKBOX_DATA: process.env.ASKBOX_DATA || join(root, 'data/dev'),
  ASKBOX_PUBLIC_URL: `http://localhost:${port}`,
  ASKBOX_SMTP_PORT: smtp,
  ASKBOX_SERVICE_PORT: service,
  ASKBOX_MAILBOX: process.env.ASKBOX_MAILBOX || join(root, 'data/dev/mailbox'),
  SMTP_URL: process.env.SMTP_URL || `smtp://127.0.0.1:${smtp}`,
}
const start = (command, args, more = {}) =>
  spawn(tool(command), args, { cwd: root, stdio: 'inherit', env: { ...environment, ...more } })
const children = [
  start('tsx', ['watch', 'src/receiver/main.ts', '--demo', demo], { ASKBOX_PORT: String(port + 1) }),
  start('tsx', ['watch', 'src/standins/sites/main.ts', '--demo', demo]),
  start('tsx', ['watch', 'src/standins/mailbox/main.ts']),
  start('tsx', ['watch', 'src/standins/service/main.ts']),
  start('vite', []),
  start('vite', ['build', '--config', 'vite.visitors.config.ts', '--watch', '--logLevel', 'warn']),
  ...['production', 'rules', 'place'].map((mode) =>
    start('vite', ['build', '--config', 'vite.fetched.config.ts', '--mode', mode, '--watch', '--logLevel', 'warn']),
  ),
]
process.once('SIGINT', () => children.forEach((child) => child.kill('SIGTERM')))
