import { type Body, bodyOf, type Change, keyOf } from '#core/sync'
import { partKinds, partOf, preferencesIn, type Workspace } from './workspace'

/** A workspace as the changes that make all of it, in the order of what refers to what. */
export function changesOf(workspace: Workspace): Change[] {
  const preferences = preferencesIn(workspace)
  return [
    ...(preferences === null
      ? []
      : [{ kind: 'preferences' as const, key: keyOf('preferences', preferences), base: 0, body: preferences }]),
    ...partKinds.flatMap((kind) =>
      (workspace[partOf(kind)] as readonly unknown[]).map((stored) => {
        const body: Body = bodyOf(kind, stored)
        return { kind, key: keyOf(kind, body), base: 0, body }
      }),
    ),
  ]
}
