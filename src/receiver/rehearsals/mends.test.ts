import { codeAs, sharedLine } from '#core/embed'
import { inTagsCode } from '#core/inlining'
import { codeThatSurvives, mangled, type Mangling } from '#core/install'
import type { Proof } from '#core/proof'
import type { CodeKind } from '#core/spot'
import { type Ground, openGround, page } from '../../../tests/rehearsal-ground'
import * as samples from '../../../tests/tables/samples'

/*
 * A mend that does not cure is none: where a kind of site damages what is pasted, the code that the check names in its place
 * is pasted on a site that does the same, and rehearsed.
 */
let ground: Ground
beforeAll(async () => void (ground = await openGround()))
afterAll(() => ground.close())

const expected = (code: CodeKind) => ({
  spot: samples.spot,
  code,
  receiver: ground.settings.publicUrl,
  versions: [samples.version],
  others: new Map<string, string>(),
  inTags: inTagsCode,
})

/** A page of a site that does so to all that is pasted into its words; its head is its owner's own. */
function pasted(code: CodeKind, does: readonly Mangling[]): string {
  const { publicUrl } = ground.settings
  const { spot, version } = samples
  const html = codeAs(code, { spot, version, heights: null, title: 'Sign up' }, publicUrl, inTagsCode)
  return page(mangled(html, ...does), code === 'script' ? sharedLine(publicUrl) : '')
}

async function rehearsed(code: CodeKind, does: readonly Mangling[]): Promise<Proof> {
  ground.serves(pasted(code, does))
  return ground.proofOf(ground.subject({}, { code }), ['again'])
}

test.each<[pasted: CodeKind, does: Mangling[], chosen: CodeKind]>([
  ['plain', ['no-style-sheets'], 'in-tags'],
  ['in-tags', ['no-style-attributes'], 'plain'],
  ['plain', ['no-attributes'], 'script'],
  ['plain', ['no-forms'], 'script'],
  // One mend for both: styles in its tags would help against the one alone.
  ['plain', ['no-forms', 'no-style-sheets'], 'script'],
  ['in-tags', ['no-forms', 'no-style-sheets', 'no-style-attributes'], 'script'],
  ['plain', ['no-forms', 'no-scripts'], 'frame'],
  ['plain', ['no-forms', 'no-scripts', 'no-frames'], 'link'],
  ['frame', ['no-frames'], 'in-tags'],
  ['frame', ['no-frames', 'no-forms'], 'script'],
  ['plain', ['links-only'], 'script'],
  ['frame', ['links-only', 'no-scripts'], 'link'],
])('%s, %j: %s is named, and works there', async (code, does, chosen) => {
  expect((await rehearsed(code, does)).verdict).toBe('failed')
  expect(codeThatSurvives(does, expected(code))).toBe(chosen)
  const { steps } = await rehearsed(chosen, does)
  expect(steps.filter(({ verdict }) => verdict === 'failed')).toEqual([])
  expect(steps.some(({ case: one, verdict }) => one === 'page' && verdict === 'passed')).toBe(true)
})

test('where another place to paste helps, no other code is named', () => {
  for (const does of [['as-text'], ['curly-quotes', 'paragraphs']] as Mangling[][])
    expect(codeThatSurvives(does, expected('plain'))).toBeNull()
})
