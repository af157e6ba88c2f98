import { join } from 'node:path'
import { endTogether, startProgram } from './programs.mjs'
import { build, installDependencies, root } from './ready.mjs'

/** `npm start`: workshop, receiver and stand-ins with the demo, on a fresh clone too. */
installDependencies()
await build()
const demo = ['--demo', join(root, 'demo/cloudberry-hill.json'), '--demo-mail']
const environment = {
  ASKBOX_DATA: process.env.ASKBOX_DATA || join(root, 'data/demo'),
  // The receiver is told of them, so that the workshop can look at their pages.
  ASKBOX_SITES_PORT: process.env.ASKBOX_SITES_PORT || '4320',
  ASKBOX_SMTP_PORT: process.env.ASKBOX_SMTP_PORT || '4325',
  ASKBOX_SERVICE_PORT: process.env.ASKBOX_SERVICE_PORT || '4330',
}
environment.ASKBOX_LOG = process.env.ASKBOX_LOG || 'text'
environment.ASKBOX_MAILBOX = process.env.ASKBOX_MAILBOX || join(environment.ASKBOX_DATA, 'mailbox')
environment.SMTP_URL = process.env.SMTP_URL || `smtp://127.0.0.1:${environment.ASKBOX_SMTP_PORT}`
const programs = ['receiver', 'sites', 'mailbox', 'service'].map((name) => startProgram(name, demo, environment))
endTogether(programs.map(({ child }) => child))
try {
  const [workshop, sites, mailbox, service] = await Promise.all(programs.map(({ ready }) => ready))
  console.log(`
  Workshop        ${workshop}
  Stand-in sites  ${sites}
  Stand-in mail   ${mailbox} (its boxes are in the workshop’s Mail room)
  Stand-in lists  ${service}

  Open the first address: it connects one browser, once (npm run pair prints another). Ctrl+C stops everything.
`)
  console.log(`  Browser for rehearsals: ${await programs[0].browser}\n`)
} catch (error) {
  for (const { child } of programs) child.kill('SIGTERM')
  process.exitCode = error.code || 1
}
