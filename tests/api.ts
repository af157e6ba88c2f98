import type { FormContent, Version } from '#core/form'
import type { Spot } from '#core/spot'
import { type Bodies, type Kept, type Kind, keyOf } from '#core/sync'
import type { RunningBox } from './programs'

/** The owner's API of a running box, as a workshop elsewhere would use it. */
export async function asked<T>(
  { workshop, key }: Pick<RunningBox, 'workshop' | 'key'>,
  path: string,
  body?: unknown,
): Promise<T> {
  const response = await fetch(`${workshop}/api${path}`, {
    headers: { Authorization: `Bearer ${key}`, 'Content-Type': 'application/json' },
    ...(body !== undefined && { method: 'POST', body: JSON.stringify(body) }),
  })
  if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`)
  return (await response.json()) as T
}

export async function objectsOf<One extends Kind>(
  box: Pick<RunningBox, 'workshop' | 'key'>,
  kind: One,
): Promise<Kept<One>[]> {
  const { objects } = await asked<{ objects: Kept[] }>(box, '/objects?after=0')
  return objects.filter((object) => object.kind === kind) as Kept<One>[]
}

/** Publishes a form's next version with other content than its newest. */
export async function publishNext(
  box: Pick<RunningBox, 'workshop' | 'key'>,
  form: string,
  change: (content: FormContent) => FormContent,
): Promise<void> {
  const versions = (await objectsOf(box, 'version'))
    .map(({ body }) => body as Version)
    .filter((version) => version.form === form)
  const newest = versions.reduce((best, one) => (one.number > best.number ? one : best))
  const version: Version = { ...newest, number: newest.number + 1, content: change(newest.content) }
  const { outcomes } = await asked<{ outcomes: { ok: boolean }[] }>(box, '/changes', {
    changes: [{ kind: 'version', key: keyOf('version', version), base: 0, body: version }],
  })
  if (!outcomes[0]?.ok) throw new Error(`Not published: ${JSON.stringify(outcomes)}`)
}

/** Changes a form's draft, as another browser would. */
export async function changeDraft(
  box: Pick<RunningBox, 'workshop' | 'key'>,
  form: string,
  change: (content: FormContent) => FormContent,
): Promise<void> {
  const kept = (await objectsOf(box, 'form')).find(({ key }) => key === form)!
  const body = { ...kept.body!, draft: change(kept.body!.draft) }
  const { outcomes } = await asked<{ outcomes: { ok: boolean }[] }>(box, '/changes', {
    changes: [{ kind: 'form', key: form, base: kept.revision, body }],
  })
  if (!outcomes[0]?.ok) throw new Error(`Not changed: ${JSON.stringify(outcomes)}`)
}

/** Makes a spot, or changes one, as another browser would. */
export function changeSpot(
  box: Pick<RunningBox, 'workshop' | 'key'>,
  spot: string,
  changes: Partial<Spot>,
): Promise<void> {
  return changeObject(box, 'spot', spot, changes)
}

export async function changeObject<One extends Kind>(
  box: Pick<RunningBox, 'workshop' | 'key'>,
  kind: One,
  key: string,
  changes: Partial<Bodies[One]>,
): Promise<void> {
  const kept = (await objectsOf(box, kind)).find((one) => one.key === key)
  const { outcomes } = await asked<{ outcomes: { ok: boolean }[] }>(box, '/changes', {
    changes: [{ kind, key, base: kept?.revision ?? 0, body: { ...kept?.body, ...changes } }],
  })
  if (!outcomes[0]?.ok) throw new Error(`Not changed: ${JSON.stringify(outcomes)}`)
}

export type Made = { [One in Kind]: readonly [One, Bodies[One]] }[Kind]

/** Makes many objects at once that are not there yet. */
export async function makeObjects(box: Pick<RunningBox, 'workshop' | 'key'>, made: readonly Made[]): Promise<void> {
  const { outcomes } = await asked<{ outcomes: { ok: boolean }[] }>(box, '/changes', {
    changes: made.map(([kind, body]) => ({ kind, key: keyOf(kind, body), base: 0, body })),
  })
  if (outcomes.some(({ ok }) => !ok)) throw new Error(`Not made: ${JSON.stringify(outcomes)}`)
}

/** The journal's entries after a number. */
export async function entriesAfter<T>(box: Pick<RunningBox, 'workshop' | 'key'>, after: number): Promise<T[]> {
  return (await asked<{ entries: T[] }>(box, `/journal?after=${after}`)).entries
}
