import { picturesIn } from '#core/form'
import { migrations } from './migrations'
import type { WorkspaceProblem } from './problem'
import { checkReferences } from './references'
import { type Workspace, WORKSPACE_FORMAT, WORKSPACE_VERSION, workspaceSchema } from './workspace'

export type WorkspaceReading = { ok: true; workspace: Workspace } | { ok: false; problem: WorkspaceProblem }

/** The workspace as the text of a file: JSON, indented, so that people and version control can read it. */
export function writeWorkspace(workspace: Workspace): string {
  return `${JSON.stringify(workspace, null, 1)}\n`
}

/** Reads a workspace file. Names the first problem and its place when there is one; never half a workspace. */
export function readWorkspace(text: string): WorkspaceReading {
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch (error) {
    return fail('not-json', '', `This is not JSON: ${error instanceof Error ? error.message : 'it cannot be read'}.`)
  }
  if (value === null || typeof value !== 'object' || (value as { format?: unknown }).format !== WORKSPACE_FORMAT) {
    return fail('not-a-workspace', 'format', 'This file is not an Ask Box workspace.')
  }
  const { version } = value as { version?: unknown }
  if (typeof version === 'number' && version > WORKSPACE_VERSION) {
    return fail('newer-version', 'version', `This file was made by a newer Ask Box (file version ${version}; this one reads up to ${WORKSPACE_VERSION}).`)
  }

  const parsed = workspaceSchema.safeParse(migrated(value as Record<string, unknown>))
  if (!parsed.success) {
    const issue = parsed.error.issues[0]
    return fail('damaged', pathOf(issue?.path ?? []), issue?.message ?? 'cannot be read')
  }
  const workspace = parsed.data
  const problem = duplicateIn(workspace) ?? checkReferences(workspace) ?? ownReferences(workspace) ?? journalGap(workspace)
  return problem === null ? { ok: true, workspace } : { ok: false, problem }
}

/** A file of an older version as it would be today. */
function migrated(value: Record<string, unknown>): unknown {
  let workspace = value
  while (typeof workspace.version === 'number') {
    const next = migrations[workspace.version]
    if (next === undefined) break
    workspace = next(workspace)
  }
  return workspace
}

function duplicateIn(workspace: Workspace): WorkspaceProblem | null {
  const names = {
    sites: workspace.sites.map((site) => site.id),
    lists: workspace.lists.map((list) => list.id),
    forms: workspace.forms.map((form) => form.id),
    spots: workspace.spots.map((spot) => spot.id),
    themes: workspace.themes.map((theme) => theme.id),
    pictures: workspace.pictures.map((picture) => picture.id),
    versions: workspace.versions.map((version) => `${version.form} version ${version.number}`),
  }
  for (const [kind, ids] of Object.entries(names)) {
    const seen = new Set<string>()
    for (const [at, id] of (ids as string[]).entries()) {
      if (seen.has(id)) return { code: 'duplicate', place: `${kind}[${at}]`, message: `“${id}” occurs a second time` }
      seen.add(id)
    }
  }
  return null
}

/** What only the owner's side refers to: themes, and the pictures of drafts. */
function ownReferences({ forms, themes, pictures }: Workspace): WorkspaceProblem | null {
  const kept = { theme: new Set<string>(themes.map(({ id }) => id)), picture: new Set<string>(pictures.map(({ id }) => id)) }
  for (const [at, form] of forms.entries()) {
    if (form.theme !== null && !kept.theme.has(form.theme)) return { code: 'broken-reference', place: `forms[${at}].theme`, message: `refers to “${form.theme}”, which does not exist` }
    const missing = picturesIn(form.draft).find((id) => !kept.picture.has(id))
    if (missing !== undefined) return { code: 'broken-reference', place: `forms[${at}].draft`, message: `shows the picture “${missing}”, which is not in the file` }
  }
  return null
}

function journalGap({ journal }: Workspace): WorkspaceProblem | null {
  const at = journal.entries.findIndex((entry, index) => entry.n !== index + 1)
  if (at >= 0) return { code: 'journal-gap', place: `journal.entries[${at}].n`, message: `must be ${at + 1}: the journal has no gaps` }
  if (journal.entries.length > 0 && journal.id === null) {
    return { code: 'damaged', place: 'journal.id', message: 'must name the journal that the entries belong to' }
  }
  return null
}

function pathOf(path: readonly PropertyKey[]): string {
  return path.map((key, at) => (typeof key === 'number' ? `[${key}]` : `${at > 0 ? '.' : ''}${String(key)}`)).join('')
}

function fail(code: WorkspaceProblem['code'], place: string, message: string): WorkspaceReading {
  return { ok: false, problem: { code, place, message } }
}
