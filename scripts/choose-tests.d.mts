export interface ListedTest {
  file: string
  project: string
  titles: string[]
  tags: string[]
}
interface Suite {
  title: string
  specs?: { file: string; title: string; tags?: string[]; tests: { projectName: string }[] }[]
  suites?: Suite[]
}
export const PARTS: number
export function chosenTests(
  tests: ListedTest[],
  seed: number,
  changed: string[],
  specs: Record<string, { of: string[]; together?: true }>,
): ListedTest[]
export function changedPaths(root: string): string[]
export function listedTests(list: { suites: Suite[] }): ListedTest[]
export function testListLine(test: ListedTest): string
