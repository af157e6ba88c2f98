import {
  codeNames,
  frameAddress,
  frameCode,
  linkCode,
  pageAddress,
  placePart,
  plainCode,
  sharedLine,
} from '#core/embed'
import { inTagsCode } from '#core/inlining'
import { checkInstall, type InstallFindingCode, type InstallReport } from '#core/install'
import type { CodeKind } from '#core/spot'
import { content, spot, version } from '../../../tests/tables/samples'
import { sites } from './sites'
import { outcome, type Typed } from './slots'

const RECEIVER = 'https://forms.example'
const placed = { content, form: version.form, version: 1, spot: spot.id, receiver: RECEIVER }
const codes: Partial<Record<CodeKind, string>> = {
  script: placePart(content, RECEIVER, spot.id, null),
  plain: plainCode(placed),
  'in-tags': inTagsCode(placed),
  frame: frameCode(frameAddress(RECEIVER, spot.id), 'A form', { width: null, height: 300 }),
  link: linkCode(content, pageAddress(RECEIVER, spot.id), { shownAs: 'words', opens: 'here' }),
}

/** What the check says of a page on which a code was typed among the words, or into the place for code. */
function checked(kind: (typeof sites)[number]['kind'], code: CodeKind, typed: Partial<Typed>): InstallReport {
  const site = sites.find((one) => one.kind === kind)!
  const html = `<!doctype html><html><head>${sharedLine(RECEIVER)}</head><body><main>${outcome(site, 'body:', { words: '', code: '', ...typed })}</main></body></html>`
  return checkInstall(
    { html, address: 'https://site.example/', policies: [] },
    { spot, code, receiver: RECEIVER, versions: [version], others: new Map(), inTags: inTagsCode },
  )
}

const kinds = sites.map(({ kind }) => kind)
const each = kinds.flatMap((kind) =>
  (Object.keys(codes) as CodeKind[]).map((code) => [kind, code, codeNames[code]] as const),
)

test.each(each)('%s: %s among the words is found, and named as what the editor made of it', (kind, code) => {
  const named: InstallFindingCode[] =
    kind === 'self-hosted-blog' ? ['curly-quotes', 'as-text', 'paragraphs'] : ['as-text', 'paragraphs']
  const report = checked(kind, code, { words: codes[code]! })
  expect([report.state, report.findings.map((one) => one.code)]).toEqual(['damaged', named])
})

/** In the place for code all is well, but for the builder that takes none. */
const withoutCode: Partial<Record<CodeKind, [state: InstallReport['state'], codes: InstallFindingCode[]]>> = {
  script: ['whole', []],
  plain: ['damaged', ['links-only']],
  'in-tags': ['damaged', ['links-only']],
  frame: ['absent', ['absent']],
  link: ['whole', []],
}
test.each(each)('%s: %s in the place for code is told by what is left of it', (kind, code) => {
  const report = checked(kind, code, { code: codes[code]! })
  expect([report.state, report.findings.map((one) => one.code)]).toEqual(
    kind === 'builder-without-code' ? withoutCode[code] : ['whole', []],
  )
})
