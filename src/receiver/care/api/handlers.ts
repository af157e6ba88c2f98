import type { OpenAPIHono } from '@hono/zod-openapi'
import { api, type CareState } from '#core/api'
import { backupSettingsHereSchema, type Care } from '..'
import { notAsDescribed } from '../../http/answers'
import { described } from '../../http/described'

const paths = described(api.care)

/** Copies that make themselves, and mails about what broke. */
export function careApiRoutes(routes: OpenAPIHono, care: Care): void {
  const { file, alerts, backups } = care
  const state = async (): Promise<CareState> => {
    const stored = await file.latest()
    return {
      backups: {
        ...stored.backups,
        goesTo: backups.folder(),
        last: stored.lastBackup,
        copies: backups.copies(),
        problem: stored.backupProblem,
        ...(care.isServer && { areMadeByServer: true }),
      },
      alerts: { ...stored.alerts, raised: Object.entries(stored.raised).map(([key, one]) => ({ key, ...one })) },
    }
  }
  routes.openapi(paths.readCare, async (c) => c.json(await state(), 200))
  routes.openapi(paths.keepBackups, async (c) => {
    // Whether a path is whole, only the computer says where it is.
    const backups = backupSettingsHereSchema.safeParse(c.req.valid('json'))
    if (!backups.success) return notAsDescribed(c, backups.error)
    await file.keep({ backups: backups.data, backupProblem: null })
    return c.json(await state(), 200)
  })
  routes.openapi(paths.makeBackup, async (c) => {
    await backups.make()
    return c.json(await state(), 200)
  })
  routes.openapi(paths.keepAlerts, async (c) => {
    const before = (await file.latest()).alerts.address
    await file.keep({ alerts: c.req.valid('json') })
    if (file.read().alerts.address !== before) await alerts.tellAll()
    return c.json(await state(), 200)
  })
}
