import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'

const WCAG_22_AA = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']

interface Scope {
  /** Looks at this part alone. */
  within?: string
  /** Leaves out these parts. */
  exclude?: string
  /** Takes in more rules, by their tags. */
  also?: string[]
  /** Asks for these rules alone, by name. */
  only?: string[]
}

/** What axe-core finds wrong on a page, a line each. */
export async function violationsOn(page: Page, { within, exclude, also = [], only }: Scope = {}): Promise<string[]> {
  // Listing all that is well takes it as long again.
  const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'], elementRef: false })
  if (only === undefined) axe.withTags([...WCAG_22_AA, ...also])
  else axe.withRules(only)
  if (within !== undefined) axe.include(within)
  if (exclude !== undefined) axe.exclude(exclude)
  const { violations } = await axe.analyze()
  return violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 120)).join(' | ')}`)
}
