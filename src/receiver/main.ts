import type { BrowserReadiness } from './browser'
import { CannotStart } from './cannot-start'
import { complain } from './log'
import { startReceiver } from './start'

/**
 * The receiver as a program: `node receiver.js [--demo <workspace file>] [--demo-mail]`. Prints `ready <workshop address>` once
 * sign-ups can be stored. What is wrong with the surroundings is said in one line, with exit code 2.
 */
const wordsFor = (found: BrowserReadiness): string => {
  switch (found.state) {
    case 'ready':
      return `${found.path}, Chromium ${found.version}: rehearsals use pages as visitors do`
    case 'none':
      return 'none; on Debian, “apt install chromium-headless-shell” lets rehearsals use pages as visitors do'
    case 'broken':
      return `none: ${found.path} does not start. ${found.reason}`
  }
}
const demo = process.argv.indexOf('--demo')
try {
  const { address, browser, stop, warning } = await startReceiver(
    process.env,
    (demo > 0 && process.argv[demo + 1]) || null,
    {
      withDemoMail: process.argv.includes('--demo-mail'),
    },
  )
  let isStopping = false
  for (const signal of ['SIGINT', 'SIGTERM'])
    process.once(signal, () => {
      isStopping = true
      void stop().then(() => process.exit(0))
    })
  // The demo is tried as whoever one is.
  if (warning !== null && demo < 0) complain(warning)
  // Whoever waits for this may end it at once.
  console.log(`ready ${address}`)
  const found = await browser()
  // One that was only being looked for ends with the receiver.
  if (!isStopping) console.log(`browser ${wordsFor(found)}`)
} catch (error) {
  if (!(error instanceof CannotStart)) throw error
  console.error(error.message)
  process.exit(2)
}
