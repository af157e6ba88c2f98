import type { OpenAPIHono } from '@hono/zod-openapi'
import { api, type CareState } from '#core/api'
import { backupSettingsHereSchema, type Care } from '..'
import { notAsDescribed, typed } from '../../http/answers'
import { described } from '../../http/described'

const paths = described(api.care)

/** Copies that make themselves, and mails about what broke. */
export function careApiRoutes(routes: OpenAPIHono, { file, alerts, backups, isServer }: Care): void {
  const state = (): CareState => {
    const stored = file.read()
    return {
      backups: {
        ...stored.backups,
        goesTo: backups.folder(),
        last: stored.lastBackup,
        copies: backups.copies(),
        problem: stored.backupProblem,
        ...(isServer && { areMadeByServer: true }),
      },
      alerts: { ...stored.alerts, raised: Object.entries(stored.raised).map(([key, one]) => ({ key, ...one })) },
    }
  }
  routes.openapi(paths.readCare, (c) => c.json(state(), 200))
  routes.openapi(paths.keepBackups, (c) => {
    // Whether a path is whole, only the computer says where it is.
    const backups = backupSettingsHereSchema.safeParse(c.req.valid('json'))
    if (!backups.success) return typed(notAsDescribed(c, backups.error), 422)
    file.keep({ backups: backups.data, backupProblem: null })
    return c.json(state(), 200)
  })
  routes.openapi(paths.makeBackup, async (c) => {
    await backups.make()
    return c.json(state(), 200)
  })
  routes.openapi(paths.keepAlerts, async (c) => {
    const before = file.read().alerts.address
    file.keep({ alerts: c.req.valid('json') })
    if (file.read().alerts.address !== before) await alerts.tellAll()
    return c.json(state(), 200)
  })
}
