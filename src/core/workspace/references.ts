import { picturesIn } from '#core/form'
import type { WorkspaceProblem } from './problem'
import type { Workspace } from './workspace'

/** The first thing that refers to something that is not there, or null. `forms[2].list`, say. */
export function checkReferences(
  all: Pick<Workspace, 'sites' | 'lists' | 'mails' | 'forms' | 'versions' | 'spots' | 'pictures'>,
): WorkspaceProblem | null {
  const ids = { site: idsOf(all.sites), list: idsOf(all.lists), form: idsOf(all.forms) }
  const references = [
    ...all.forms.map((form, at) => ({ path: `forms[${at}].list`, to: form.list, among: ids.list })),
    ...all.versions.flatMap((version, at) => [
      { path: `versions[${at}].form`, to: version.form, among: ids.form },
      { path: `versions[${at}].list`, to: version.list, among: ids.list },
    ]),
    ...all.spots.flatMap((spot, at) => [
      { path: `spots[${at}].form`, to: spot.form, among: ids.form },
      { path: `spots[${at}].site`, to: spot.site, among: ids.site },
    ]),
    ...all.mails.map((mail, at) => ({ path: `mails[${at}].list`, to: mail.list, among: ids.list })),
  ] as { path: string; to: string; among: Set<string> }[]
  const kept = idsOf(all.pictures)
  for (const [at, version] of all.versions.entries()) {
    const missing = picturesIn(version.content).find((id) => !kept.has(id))
    if (missing !== undefined)
      return {
        code: 'broken-reference',
        path: `versions[${at}].content`,
        message: `shows the picture “${missing}”, which does not exist`,
      }
  }
  const broken = references.find((reference) => !reference.among.has(reference.to))
  return broken
    ? { code: 'broken-reference', path: broken.path, message: `refers to “${broken.to}”, which does not exist` }
    : null
}

function idsOf(all: readonly { id: string }[]): Set<string> {
  return new Set(all.map((one) => one.id))
}
