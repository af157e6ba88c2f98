import { Browsers } from './browsers'
import type { ProcessAnswer, ProcessAsk } from './browser-process'

/** The program that drives the browser, in a process of its own: it is told what to do by the receiver, and ends with it. */
let browsers: Browsers | null = null
const end = () => void (browsers?.stop() ?? Promise.resolve()).finally(() => process.exit(0))
process.on('disconnect', end)
process.on('SIGTERM', end)
// By Ctrl+C the receiver ends it in its own time.
process.on('SIGINT', () => {})
process.on('message', (ask: ProcessAsk) => void answer(ask))

async function answer({ id, what }: ProcessAsk): Promise<void> {
  const result = await carryOut(what)
  const told: ProcessAnswer = { id, result, isThere: browsers?.isThere() ?? false }
  // A receiver that is gone hears nothing any more; `disconnect` ends this one too.
  if (process.connected) process.send?.(told, () => {})
}

async function carryOut(what: ProcessAsk['what']): Promise<unknown> {
  switch (what.kind) {
    case 'settings':
      browsers = new Browsers(what.settings, undefined, what.limits)
      return null
    case 'state':
      return browsers!.state()
    case 'visit':
      return browsers!.visit(what.code, what.wish)
    case 'read':
      return browsers!.read(what.code, what.wish)
    case 'end':
      return browsers!.end(what.code)
  }
}
