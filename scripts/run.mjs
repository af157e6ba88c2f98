import { findChromium, installDependencies, run, tool } from './ready.mjs'

/** Runs one TypeScript program of the project: `node scripts/run.mjs tests/bench/bench.ts`. */
installDependencies()
const chromium = /bench|screenshots|verdicts/.test(process.argv[2] ?? '') ? { CHROMIUM: findChromium() } : {}
run(tool('tsx'), process.argv.slice(2), { env: { ...process.env, ...chromium } })
