import { createRoute, type OpenAPIHono, z } from '@hono/zod-openapi'
import { alertSettingsSchema, type Care, backupSettingsSchema } from '../care'
import { answers, body, done, readings } from './routes'

const careState = z.object({
  backups: backupSettingsSchema.extend({
    /** Where copies go: the folder that was set, or the one beside the store. */
    goesTo: z.string(),
    last: z.object({ at: z.int(), path: z.string(), bytes: z.int(), entries: z.int() }).nullable(),
    problem: z.object({ at: z.int(), said: z.string() }).nullable(),
  }),
  alerts: alertSettingsSchema.extend({
    /** What is broken now and was told of. */
    raised: z.array(z.object({ key: z.string(), at: z.int(), subject: z.string(), text: z.string() })),
  }),
})
export type CareState = z.infer<typeof careState>

const readCare = createRoute({
  method: 'get',
  path: '/care',
  summary: 'Copies that make themselves, and mails to the owner when something broke.',
  responses: { ...answers, 200: done(careState) },
})
const keepBackups = createRoute({
  method: 'put',
  path: '/care/backups',
  summary: 'Sets whether copies are made daily, where, and how many are kept.',
  request: body(backupSettingsSchema),
  responses: { ...answers, ...readings, 200: done(careState) },
})
const makeBackup = createRoute({
  method: 'post',
  path: '/care/backups/now',
  summary: 'Makes a copy now, and reads it through. Where that fails, `backups.problem` says why.',
  responses: { ...answers, 200: done(careState) },
})
const keepAlerts = createRoute({
  method: 'put',
  path: '/care/alerts',
  summary: 'Sets where the owner is told when something broke; empty for nowhere.',
  request: body(alertSettingsSchema),
  responses: { ...answers, ...readings, 200: done(careState) },
})

export function careApiRoutes(routes: OpenAPIHono, { file, alerts, backups }: Care): void {
  const state = (): CareState => {
    const kept = file.read()
    return {
      backups: {
        ...kept.backups,
        goesTo: backups.folder(),
        last: kept.lastBackup,
        problem: kept.backupProblem,
      },
      alerts: { ...kept.alerts, raised: Object.entries(kept.raised).map(([key, one]) => ({ key, ...one })) },
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
