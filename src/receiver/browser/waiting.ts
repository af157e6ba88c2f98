import type { Locator } from 'playwright-core'
import type { Obstacle } from '#core/rehearsal'

const LOOK_EVERY_MS = 25
const FRAME_MS = 1_000

/** What a browser says that forbids what a press was to do. */
export const FORBIDS = /Content Security Policy|sandboxed|disallowed/i
/** What it says of our own looking at a page that runs no scripts. */
export const OF_LOOKING = /^Blocked script execution/

/** The page itself did not come. */
export class NotOpened extends Error {}

export function trouble(error: unknown, about: string): Obstacle {
  return { code: 'trouble', detail: `${about}: ${shortly(error)}`, markup: '' }
}

/** The first line of what a browser says, without its own words for us. */
export function shortly(error: unknown): string {
  const [line = ''] = (error instanceof Error ? error.message : String(error)).split('\n')
  return line.replace(/^(?:page|locator|frame)\.\w+: /, '').slice(0, 300)
}

export async function markupOf(one: Locator): Promise<string> {
  return one.evaluate((element) => element.outerHTML.slice(0, 1_500))
}

/** Polls until there is a result; null after the time limit, or when waiting is useless. */
export async function until<T>(
  look: () => Promise<T | null>,
  ms: number,
  isHopeless: () => Promise<boolean> = async () => false,
): Promise<T | null> {
  for (const end = performance.now() + ms; ; await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS))) {
    const found = await look()
    if (found !== null || performance.now() > end || (await isHopeless())) return found
  }
}

/** Null where a frame is just going, or does not answer: one out of sight may not be loaded until it comes into sight. */
export function answeredSoon<T>(looked: Promise<T | null>): Promise<T | null> {
  return Promise.race([
    looked.catch(() => null),
    new Promise<null>((resolve) => setTimeout(() => resolve(null), FRAME_MS).unref()),
  ])
}
