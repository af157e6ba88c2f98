import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Placing } from '#core/rule'
import { startRule } from '#core/rule'
import type { SiteId, SpotId } from '#core/ids'
import { site, spot, version, workspace } from '../../../tests/tables/samples'
import { receiverApp } from '../app'
import { newLedger, settingsFor } from '../../../tests/ledger'

const SCRIPT = '/* the script */'

async function appWith(placing: Placing | undefined) {
  const ledger = await newLedger()
  await ledger.seed({
    ...workspace,
    versions: [version],
    sites: [
      { ...site, address: 'https://www.hill.example/blog', kind: 'static-pages' },
      { ...site, id: 'belowsite' as SiteId, address: 'https://hill.example/blog/shop/' },
    ],
    spots: [{ ...spot, id: 'ruledspot' as SpotId, code: 'rule', ...(placing && { placing }) }],
  })
  const settings = settingsFor()
  const files = mkdtempSync(join(tmpdir(), 'ask-box-files-'))
  writeFileSync(join(files, 'askbox.js'), SCRIPT)
  const app = receiverApp({ ledger, settings, ownerKey: 'k'.repeat(40), workshop: null, files })
  const get = (path: string, headers = {}) => app.request(`http://localhost:4310${path}`, { headers })
  return { get, close: () => ledger.close() }
}

test('while no rule is published the script asks for none; a draft is no rule', async () => {
  const { get, close } = await appWith({ draft: startRule, published: null })
  expect(await (await get('/askbox.js')).text()).toBe(SCRIPT)
  expect(await (await get('/rules/hill.example.json')).json()).toEqual({ rules: [] })
  await close()
})

test('rules of a host come with a validator, alike for everybody; with and without www, and for no other host', async () => {
  const { get, close } = await appWith({ draft: startRule, published: startRule })
  expect(await (await get('/askbox.js')).text()).toMatch(/the script[\s\S]*rules\.js/)
  const answer = await get('/rules/hill.example.json')
  expect(await answer.json()).toEqual({
    rules: [{ ...startRule, spot: 'ruledspot', under: '/blog/', apart: ['/blog/shop/'] }],
  })
  expect(answer.headers.get('Access-Control-Allow-Origin')).toBe('*')
  expect(answer.headers.get('Set-Cookie')).toBeNull()
  expect(answer.headers.get('Vary') ?? '').not.toMatch(/cookie|user-agent/i)
  const again = { 'If-None-Match': answer.headers.get('ETag')! }
  expect((await get('/rules/www.hill.example.json', again)).status).toBe(304)
  expect(await (await get('/rules/other.example.json')).json()).toEqual({ rules: [] })
  await close()
})
