import { writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { readWorkspace, writeWorkspace } from '#core/workspace'
import { cloudberryHill } from './cloudberry-hill'

/** `npm run demo`: writes the demo workspace. Always the same file, because its seed and its clock are fixed. */
const text = writeWorkspace(cloudberryHill())
const reading = readWorkspace(text)
if (!reading.ok) throw new Error(`The demo is not a workspace: ${reading.problem.place} ${reading.problem.message}`)
writeFileSync(resolve(import.meta.dirname, 'cloudberry-hill.json'), text)
console.log(`demo/cloudberry-hill.json: ${reading.workspace.forms.length} forms, ${reading.workspace.journal.entries.length} journal entries`)
