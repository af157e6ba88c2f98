const FLAG = 'askbox-demo'
/** What the workers of a tab in the demo are called, where they are started. */
const DEMO_WORKER = 'demo'
export const DEMO_DATABASE = 'ask-box-demo'

/**
 * Whether this tab looks round in the demo: made-up sites, forms and people in a database of their own, never sent
 * anywhere. Workers have no storage of the tab, and know by their name.
 */
export const isDemo =
  typeof document === 'undefined' ? typeof self !== 'undefined' && self.name === DEMO_WORKER : sessionFlag() !== null

/** From the next load on, this tab shows the demo. */
export function enterDemo(): void {
  sessionStorage.setItem(FLAG, 'yes')
  location.assign('/')
}

/** Ends it: what was tried in the demo is gone, and one's own work is there as it was. */
export async function leaveDemo(close: () => Promise<void>): Promise<void> {
  sessionStorage.removeItem(FLAG)
  await close()
  location.assign('/')
}

function sessionFlag(): string | null {
  try {
    return globalThis.sessionStorage?.getItem(FLAG) ?? null
  } catch {
    // A browser that keeps nothing has no demo.
    return null
  }
}
