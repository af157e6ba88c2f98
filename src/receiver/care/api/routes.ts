import { createRoute } from '@hono/zod-openapi'
import { alertSettingsSchema, careStateSchema } from '#core/api'
import { backupSettingsHereSchema } from '..'
import { answers, body, done, readings } from '../../http/answers'

export const readCare = createRoute({
  method: 'get',
  path: '/care',
  summary: 'Copies that make themselves, and mails to the owner when something broke.',
  responses: { ...answers, 200: done(careStateSchema) },
})
export const keepBackups = createRoute({
  method: 'put',
  path: '/care/backups',
  summary: 'Sets whether copies are made daily, where, and how many are kept.',
  request: body(backupSettingsHereSchema),
  responses: { ...answers, ...readings, 200: done(careStateSchema) },
})
export const makeBackup = createRoute({
  method: 'post',
  path: '/care/backups/now',
  summary: 'Makes a copy now, and reads it through. Where that fails, `backups.problem` says why.',
  responses: { ...answers, 200: done(careStateSchema) },
})
export const keepAlerts = createRoute({
  method: 'put',
  path: '/care/alerts',
  summary: 'Sets where the owner is told when something broke; empty for nowhere.',
  request: body(alertSettingsSchema),
  responses: { ...answers, ...readings, 200: done(careStateSchema) },
})
