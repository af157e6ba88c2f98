import { type Kind, type Body, keyOf, referencesOf } from '#core/sync'
import type { WorkspaceProblem } from './problem'
import { partKinds, partOf, type Workspace } from './workspace'

/** The first thing that refers to something that is not there, or null. Its place is `forms[2].list`, say. */
export function checkReferences(all: Workspace): WorkspaceProblem | null {
  const bodies = (kind: (typeof partKinds)[number]) => all[partOf(kind)] as unknown as Body[]
  const keys = new Map<Kind, Set<string>>(
    partKinds.map((kind) => [kind, new Set(bodies(kind).map((body) => keyOf(kind, body)))]),
  )
  for (const kind of partKinds)
    for (const [at, body] of bodies(kind).entries()) {
      const broken = referencesOf(kind, body).find(({ kind, key }) => !keys.get(kind)?.has(key))
      if (broken === undefined) continue
      return {
        code: 'broken-reference',
        path: `${partOf(kind)}[${at}].${broken.part}`,
        message: `refers to the ${broken.kind} “${broken.key}”, which is not there`,
      }
    }
  return null
}
