import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { Page } from '@playwright/test'
import type axe from 'axe-core'

const WCAG_22_AA = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']
const source = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

type Run = (within: string, options: axe.RunOptions) => Promise<axe.AxeResults>

interface Scope {
  /** Looks at this part alone. */
  within?: string
  /** Takes in more rules, by their tags. */
  also?: string[]
  /** Asks for these rules alone, by name. */
  only?: string[]
}

/** What axe-core finds wrong on a page, a line each. What is in frames is left out. */
export async function violationsOn(page: Page, scope: Scope = {}): Promise<string[]> {
  const violations = await violatingNodes(page, scope)
  return violations.map(({ id, nodes }) => `${id}: ${nodes.map((html) => html.slice(0, 120)).join(' | ')}`)
}

/** The rules that axe-core finds broken, and the HTML of what breaks them. */
export async function violatingNodes(
  page: Page,
  { within = 'html', also = [], only }: Scope = {},
): Promise<{ id: string; nodes: string[] }[]> {
  // Once for each page: to read and run all of it takes as long as a look at a small one.
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(source)
  const options: axe.RunOptions = {
    runOnly: only === undefined ? { type: 'tag', values: [...WCAG_22_AA, ...also] } : { type: 'rule', values: only },
    // Listing all that is well takes it as long again.
    resultTypes: ['violations'],
    elementRef: false,
    iframes: false,
  }
  return page.evaluate(
    async ([within, options]) => {
      const { run } = (window as unknown as { axe: { run: Run } }).axe
      const { violations } = await run(within, options)
      return violations.map(({ id, nodes }) => ({ id, nodes: nodes.map(({ html }) => html) }))
    },
    [within, options] as const,
  )
}
