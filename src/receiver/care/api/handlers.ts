import type { OpenAPIHono } from '@hono/zod-openapi'
import type { CareState } from '#core/api'
import type { Care } from '..'
import { keepAlerts, keepBackups, makeBackup, readCare } from './routes'

/** Copies that make themselves, and mails about what broke. */
export function careApiRoutes(routes: OpenAPIHono, { file, alerts, backups }: Care): void {
  const state = (): CareState => {
    const stored = file.read()
    return {
      backups: {
        ...stored.backups,
        goesTo: backups.folder(),
        last: stored.lastBackup,
        copies: backups.copies(),
        problem: stored.backupProblem,
      },
      alerts: { ...stored.alerts, raised: Object.entries(stored.raised).map(([key, one]) => ({ key, ...one })) },
    }
  }
  routes.openapi(readCare, (c) => c.json(state(), 200))
  routes.openapi(keepBackups, (c) => {
    file.keep({ backups: c.req.valid('json'), backupProblem: null })
    return c.json(state(), 200)
  })
  routes.openapi(makeBackup, async (c) => {
    await backups.make()
    return c.json(state(), 200)
  })
  routes.openapi(keepAlerts, async (c) => {
    const before = file.read().alerts.address
    file.keep({ alerts: c.req.valid('json') })
    if (file.read().alerts.address !== before) await alerts.tellAll()
    return c.json(state(), 200)
  })
}
