import { readFileSync, renameSync, writeFileSync } from 'node:fs'
import { isAbsolute } from 'node:path'
import { z } from 'zod'
import {
  alertSettingsSchema,
  backupProblemSchema,
  backupSettingsSchema,
  lastBackupSchema,
  raisedAlertSchema,
} from '#core/api'
import type { Values } from '../values'

/** As the owner's API takes them, with a folder that is one here. */
export const backupSettingsHereSchema = backupSettingsSchema.refine(
  ({ folder }) => folder === '' || (isAbsolute(folder) && !folder.includes('\0')),
  { path: ['folder'], message: 'must be a whole path' },
)

const keptSchema = z.strictObject({
  backups: backupSettingsHereSchema,
  alerts: alertSettingsSchema,
  /** The newest copy, which was opened and read through. */
  lastBackup: lastBackupSchema.nullable(),
  /** Why the last try made none; null once one did. */
  backupProblem: backupProblemSchema.nullable(),
  raised: z.record(z.string(), raisedAlertSchema),
})
export type CareFacts = z.infer<typeof keptSchema>

const start: CareFacts = {
  backups: { isOn: true, folder: '', keep: 7 },
  alerts: { address: '' },
  lastBackup: null,
  backupProblem: null,
  raised: {},
}

export const CARE_FILE = 'care.json'

const NAMED = 'care'

/**
 * What is kept of copies and alerts: a small file in the data folder, whole at any moment, which is there even where the
 * store is damaged; one that cannot be read is begun anew. Where receivers share a store, it is in that, and `read` gives
 * what was there when it was asked last.
 */
export class CareFile {
  private kept: CareFacts

  /** @param store where it is kept as long as that is shared: one that is moved is shared from then on */
  constructor(
    private readonly file: string | null,
    private readonly store: { readonly isShared: boolean; readonly values: Values },
  ) {
    this.kept = !store.isShared && file !== null ? readKept(file) : start
  }

  read(): CareFacts {
    return this.kept
  }

  /** As it is now, whichever receiver changed it. */
  async latest(): Promise<CareFacts> {
    const { isShared, values } = this.store
    if (isShared) this.kept = keptIn(await values.value(NAMED))
    return this.kept
  }

  async keep(changes: Partial<CareFacts> | ((before: CareFacts) => Partial<CareFacts>)): Promise<void> {
    const changed = (before: CareFacts) => ({
      ...before,
      ...(typeof changes === 'function' ? changes(before) : changes),
    })
    const { isShared, values } = this.store
    if (isShared) {
      this.kept = keptIn(await values.change<unknown>(NAMED, (before) => changed(keptIn(before))))
      return
    }
    this.kept = changed(this.kept)
    if (this.file === null) return
    writeFileSync(`${this.file}.new`, JSON.stringify(this.kept, null, 1), { mode: 0o600, flush: true })
    renameSync(`${this.file}.new`, this.file)
  }
}

function keptIn(value: unknown): CareFacts {
  const parsed = keptSchema.safeParse(value)
  return parsed.success ? parsed.data : start
}

/** What a file says; where there is none that can be read, what everything starts with. */
export function readKept(file: string): CareFacts {
  try {
    return keptIn(JSON.parse(readFileSync(file, 'utf8')))
  } catch {
    return start
  }
}
