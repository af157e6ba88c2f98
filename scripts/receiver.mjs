import { endTogether, startProgram } from './programs.mjs'
import { build, installDependencies } from './ready.mjs'

/** `npm run receiver`: the receiver and the workshop for real use, without demo and stand-ins. */
installDependencies()
await build()
const { child, ready, browser } = startProgram('receiver', [], {})
endTogether([child])
try {
  console.log(`\n  Workshop   ${await ready}\n`)
  console.log(`  Browser for rehearsals: ${await browser}\n`)
} catch (error) {
  process.exitCode = error.code || 1
}
