import { z } from 'zod'
import { addressesIn } from '#core/privacy'
import { route } from './route'
import { parseEmail } from '#core/email'

/** What its owner set about copies of the store. */
export const backupSettingsSchema = z.strictObject({
  isOn: z.boolean(),
  /** Empty for a folder beside the store; else a whole path, as the receiver's system writes paths. */
  folder: z.string().max(1_000),
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

/** The newest copy, which was opened and read through. */
export const lastBackupSchema = z.strictObject({ at: z.int(), path: z.string(), bytes: z.int(), entries: z.int() })
/** Why the last try made none. */
export const backupProblemSchema = z.strictObject({ at: z.int(), said: addressesIn(z.string()) })
/** One thing that broke and was told; kept until it is well again, so that it is told once. */
export const raisedAlertSchema = z.strictObject({
  at: z.int(),
  subject: addressesIn(z.string()),
  text: addressesIn(z.string()),
})
export type RaisedAlert = z.infer<typeof raisedAlertSchema>

/** Copies that make themselves, and mails to the owner when something broke; times in milliseconds since 1970. */
const careStateSchema = z.object({
  backups: backupSettingsSchema.extend({
    /** Where copies go: the folder that was set, or the one beside the store. */
    goesTo: z.string(),
    last: lastBackupSchema.nullable(),
    /** All that lie there and made themselves, the newest first: when each was made. */
    copies: z.array(z.int()),
    problem: backupProblemSchema.nullable(),
    /** A database server is copied by its own tools: none is made here. */
    areMadeByServer: z.literal(true).optional(),
  }),
  alerts: alertSettingsSchema.extend({
    /** What is broken now and was told of. */
    raised: z.array(raisedAlertSchema.extend({ key: z.string() })),
  }),
})
export type CareState = z.infer<typeof careStateSchema>

export const careRoutes = {
  readCare: route({
    method: 'get',
    path: '/care',
    needs: 'edit',
    summary: 'Copies that make themselves, and mails to the owner when something broke.',
    answer: careStateSchema,
  }),
  keepBackups: route({
    method: 'put',
    path: '/care/backups',
    needs: 'own',
    summary: 'Sets whether copies are made daily, where, and how many are kept.',
    body: backupSettingsSchema,
    answer: careStateSchema,
  }),
  makeBackup: route({
    method: 'post',
    path: '/care/backups/now',
    needs: 'own',
    summary: 'Makes a copy now, and reads it through. Where that fails, `backups.problem` says why.',
    answer: careStateSchema,
  }),
  keepAlerts: route({
    method: 'put',
    path: '/care/alerts',
    needs: 'own',
    summary: 'Sets where the owner is told when something broke; empty for nowhere.',
    body: alertSettingsSchema,
    answer: careStateSchema,
  }),
}
