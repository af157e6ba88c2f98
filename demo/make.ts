import { writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { z } from 'zod'
import { serviceFileSchema } from '#core/connection'
import { readWorkspace, workspaceSchema, writeWorkspace } from '#core/workspace'
import { cloudberryHill } from './cloudberry-hill'
import { starChart } from './star-chart'

/** `npm run demo`: writes the demo workspace and the file format's JSON Schema. Always the same file, because its seed and its clock are fixed. */
const chart = await starChart()
writeFileSync(resolve(import.meta.dirname, 'gifts', chart.id), chart.bytes)
const text = writeWorkspace(cloudberryHill({ id: chart.id, size: chart.bytes.length }))
const reading = readWorkspace(text)
if (!reading.ok) throw new Error(`The demo is not a workspace: ${reading.problem.path} ${reading.problem.message}`)
writeFileSync(resolve(import.meta.dirname, 'cloudberry-hill.json'), text)
console.log(
  `demo/cloudberry-hill.json: ${reading.workspace.forms.length} forms, ${reading.workspace.journal.entries.length} journal entries`,
)

const schema = {
  $comment: 'Made by “npm run demo” from src/core/workspace/workspace.ts',
  ...z.toJSONSchema(workspaceSchema, { unrepresentable: 'any' }),
}
writeFileSync(
  resolve(import.meta.dirname, '../docs/workspace-file.schema.json'),
  `${JSON.stringify(schema, null, 1)}\n`,
)
const service = {
  $comment: 'Made by “npm run demo” from src/core/connection/service-file.ts',
  ...z.toJSONSchema(serviceFileSchema, { unrepresentable: 'any' }),
}
writeFileSync(resolve(import.meta.dirname, '../docs/service-file.schema.json'), `${JSON.stringify(service, null, 1)}\n`)
