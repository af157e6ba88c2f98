import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'

const WCAG_22_AA = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']

/** What axe-core finds wrong on a page, a line each. `exclude` leaves out parts, `also` takes in more of its rules. */
export async function violationsOn(page: Page, { exclude, also = [] }: { exclude?: string; also?: string[] } = {}): Promise<string[]> {
  // Listing all that is well takes it as long again.
  const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'], elementRef: false }).withTags([...WCAG_22_AA, ...also])
  const { violations } = await (exclude === undefined ? axe : axe.exclude(exclude)).analyze()
  return violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 120)).join(' | ')}`)
}
