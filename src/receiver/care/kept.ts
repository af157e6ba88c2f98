import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { isAbsolute } from 'node:path'
import { z } from 'zod'
import { parseEmail } from '#core/email'

/** What its owner set about copies of the store. */
export const backupSettingsSchema = z.strictObject({
  isOn: z.boolean(),
  /** Empty for a folder beside the store. */
  folder: z
    .string()
    .max(1_000)
    .refine((path) => path === '' || (isAbsolute(path) && !path.includes('\0')), 'must be a whole path'),
  /** So many of the newest are kept. */
  keep: z.int().min(1).max(365),
})
export type BackupSettings = z.infer<typeof backupSettingsSchema>

/** Where the owner hears of what broke; empty for nowhere. */
export const alertSettingsSchema = z.strictObject({
  address: z
    .string()
    .max(320)
    .refine((address) => address === '' || parseEmail(address).ok, 'must be an email address'),
})
export type AlertSettings = z.infer<typeof alertSettingsSchema>

const moment = z.int()
/** One thing that broke and was told; kept until it is well again, so that it is told once. */
const raisedSchema = z.strictObject({ at: moment, subject: z.string(), text: z.string() })
export type Raised = z.infer<typeof raisedSchema>

const keptSchema = z.strictObject({
  backups: backupSettingsSchema,
  alerts: alertSettingsSchema,
  /** The newest copy, which was opened and read through. */
  lastBackup: z.strictObject({ at: moment, path: z.string(), bytes: z.int(), entries: z.int() }).nullable(),
  /** Why the last try made none; null once one did. */
  backupProblem: z.strictObject({ at: moment, said: z.string() }).nullable(),
  raised: z.record(z.string(), raisedSchema),
})
export type Kept = z.infer<typeof keptSchema>

const start: Kept = {
  backups: { isOn: true, folder: '', keep: 7 },
  alerts: { address: '' },
  lastBackup: null,
  backupProblem: null,
  raised: {},
}

/** A small file in the data folder, whole at any moment. One that cannot be read is begun anew. */
export class CareFile {
  private kept: Kept

  constructor(private readonly file: string | null) {
    this.kept = file !== null && existsSync(file) ? readKept(file) : start
  }

  read(): Kept {
    return this.kept
  }

  keep(changes: Partial<Kept>): void {
    this.kept = { ...this.kept, ...changes }
    if (this.file === null) return
    writeFileSync(`${this.file}.new`, JSON.stringify(this.kept, null, 1), { mode: 0o600, flush: true })
    renameSync(`${this.file}.new`, this.file)
  }
}

function readKept(file: string): Kept {
  try {
    const parsed = keptSchema.safeParse(JSON.parse(readFileSync(file, 'utf8')))
    return parsed.success ? parsed.data : start
  } catch {
    return start
  }
}
