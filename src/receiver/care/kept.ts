import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { isAbsolute } from 'node:path'
import { z } from 'zod'
import {
  alertSettingsSchema,
  backupProblemSchema,
  backupSettingsSchema,
  lastBackupSchema,
  raisedAlertSchema,
} from '#core/api'

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

/** A small file in the data folder, whole at any moment. One that cannot be read is begun anew. */
export class CareFile {
  private kept: CareFacts

  constructor(private readonly file: string | null) {
    this.kept = file !== null && existsSync(file) ? readKept(file) : start
  }

  read(): CareFacts {
    return this.kept
  }

  keep(changes: Partial<CareFacts>): void {
    this.kept = { ...this.kept, ...changes }
    if (this.file === null) return
    writeFileSync(`${this.file}.new`, JSON.stringify(this.kept, null, 1), { mode: 0o600, flush: true })
    renameSync(`${this.file}.new`, this.file)
  }
}

function readKept(file: string): CareFacts {
  try {
    const parsed = keptSchema.safeParse(JSON.parse(readFileSync(file, 'utf8')))
    return parsed.success ? parsed.data : start
  } catch {
    return start
  }
}
