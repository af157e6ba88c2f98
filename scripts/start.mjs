import { join } from 'node:path'
import { endTogether, startProgram } from './programs.mjs'
import { build, installDependencies, root } from './ready.mjs'

/** `npm start`: workshop, receiver and stand-ins with the demo, on a fresh clone too. */
installDependencies()
build()
const demo = ['--demo', join(root, 'demo/cloudberry-hill.json')]
const environment = {
  ASKBOX_DATA: process.env.ASKBOX_DATA || join(root, 'data/demo'),
  // The receiver is told of them, so that the workshop can look at their pages.
  ASKBOX_SITES_PORT: process.env.ASKBOX_SITES_PORT || '4320',
}
const programs = [startProgram('receiver', demo, environment), startProgram('sites', demo, environment)]
endTogether(programs.map(({ child }) => child))
try {
  const [workshop, sites] = await Promise.all(programs.map(({ ready }) => ready))
  console.log(`
  Workshop        ${workshop}
  Stand-in sites  ${sites}

  Open the first address once: its key pairs your browser. Ctrl+C stops everything.
`)
} catch (error) {
  for (const { child } of programs) child.kill('SIGTERM')
  process.exitCode = error.code || 1
}
