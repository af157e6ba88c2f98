import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { receiverApp } from '../app'
import { type Ledger, openLedger } from '../ledger'
import { openStore } from '../subjects'
import { OwnerKeys } from '.'
import { settingsFor } from '../../../tests/ledger'

const OWN = 'the-computers-own-key'
let folder: string
let ledger: Ledger
let now: number
let keys: OwnerKeys

async function open(): Promise<void> {
  ledger = await openLedger(await openStore(folder), () => now)
  keys = new OwnerKeys(ledger.values, OWN, () => now)
}
beforeEach(async () => {
  now = Date.parse('2026-11-20T12:00:00Z')
  folder = mkdtempSync(join(tmpdir(), 'owner-keys-'))
  await open()
})
afterEach(async () => {
  await ledger.close()
  rmSync(folder, { recursive: true, force: true })
})
async function app() {
  const settings = settingsFor({ ASKBOX_PUBLIC_URL: 'https://forms.example' }, folder)
  return receiverApp({ ledger, settings, ownerKey: OWN, keys, workshop: null })
}
const pair = async (code: unknown, name: unknown = 'Firefox on Linux') => {
  const response = await (
    await app()
  ).request('/api/pair', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ code, name }),
  })
  return { status: response.status, body: (await response.json()) as { key: string; id: string } }
}
const OWNERS = { name: '', right: 'owner', seesPeople: true } as const
const describeWith = async (key: string) =>
  (await (await app()).request('/api/keys', { headers: { Authorization: `Bearer ${key}` } })).status

test('a key with a last day ends with it, as if it had been withdrawn, and the list says until when', async () => {
  const endsAt = now + 86_400_000
  const { code } = await keys.newCode({ ...OWNERS, name: 'Anna', endsAt }, 'computer')
  const { key } = (await pair(code)).body
  now = endsAt - 1
  expect(await describeWith(key)).toBe(200)
  expect(await keys.list()).toMatchObject([{ name: 'Anna', until: endsAt, withdrawnAt: null }])
  now = endsAt
  expect(await describeWith(key)).toBe(401)
  expect(await keys.bearerOf(key)).toBe('withdrawn')
})

test('a code gives one key, which opens the owner’s side after a restart too, until it is withdrawn', async () => {
  const { code } = await keys.newCode(OWNERS, 'computer')
  const both = await Promise.all([pair(code), pair(code)])
  expect(both.map(({ status }) => status).toSorted()).toEqual([200, 410])
  const { key, id } = both.find(({ status }) => status === 200)!.body
  expect([await describeWith(key), await describeWith(OWN), await describeWith('another-key-altogether')]).toEqual([
    ...[200, 200, 401],
  ])
  await ledger.close()
  // Nothing that opens anything lies in the store.
  const stored = readFileSync(join(folder, 'askbox.sqlite'), 'latin1')
  expect([key, code].filter((secret) => stored.includes(secret))).toEqual([])
  await open()
  expect(await describeWith(key)).toBe(200)
  expect(await keys.list()).toMatchObject([{ id, name: 'Firefox on Linux' }])
  await keys.withdraw(id)
  expect(await describeWith(key)).toBe(401)
  expect(await keys.list()).toMatchObject([{ id, withdrawnAt: now }])
  expect((await pair(code)).status).toBe(410)
})

test.each<[string, unknown, unknown, number]>([
  ['of nobody', 'x'.repeat(32), 'A browser', 404],
  ['too short', 'x', 'A browser', 422],
  ['that is a list', ['x'], 'A browser', 422],
  ['with a name of several lines', 'x'.repeat(32), 'A\nbrowser', 422],
  ['of the computer’s own key', OWN, 'A browser', 404],
])('a code %s gives none', async (_, code, name, status) => expect((await pair(code, name)).status).toBe(status))

test.each([
  ['an empty body of another type', 'multipart/form-data', '', 415],
  ['a body of another type', 'text/plain', '{}', 415],
  ['no body', 'application/json', '', 400],
  ['more than a code is long', 'application/json', JSON.stringify({ code: 'x'.repeat(9_000), name: 'a' }), 413],
])('%s is no code', async (_, type, body, status) => {
  const answer = await (await app()).request('/api/pair', { method: 'POST', headers: { 'Content-Type': type }, body })
  expect(answer.status).toBe(status)
})

test('a start’s code lasts an hour and ends the one before; each open one is listed, by whom, and can be shut', async () => {
  const anna = await keys.newCode({ name: 'Anna', right: 'editor', seesPeople: true }, 'computer')
  const [before, printed] = [await keys.newStartCode(), await keys.newStartCode()]
  now += 1_000
  const { id } = (await pair(anna.code)).body
  await keys.newCode({ name: 'Ben', right: 'reader', seesPeople: false }, id)
  expect((await pair(before)).status).toBe(404)
  expect(await keys.openCodes()).toMatchObject([
    { name: 'Ben', right: 'reader', by: 'Anna', until: now + 7 * 86_400_000 },
    { right: 'owner', by: null, until: now - 1_000 + 3_600_000 },
  ])
  const shown = await (await app()).request('/api/keys', { headers: { Authorization: `Bearer ${OWN}` } })
  const { addresses } = (await shown.json()) as { addresses: { id: string }[] }
  expect(JSON.stringify(addresses)).not.toContain(printed)
  const shut = `/api/keys/addresses/${addresses[1]!.id}/shut`
  await (await app()).request(shut, { method: 'POST', headers: { Authorization: `Bearer ${OWN}` } })
  expect((await pair(printed)).status).toBe(404)
  const last = await keys.newStartCode()
  now += 3_600_001
  expect((await pair(last)).status).toBe(404)
  expect((await keys.openCodes()).map(({ name }) => name)).toEqual(['Ben'])
})

test('a code ends after a week; when a key was used last is known by the hour', async () => {
  const { code } = await keys.newCode(OWNERS, 'computer')
  const later = await keys.newCode(OWNERS, 'computer')
  now += 6 * 86_400_000
  const { key } = (await pair(later.code)).body
  now += 2 * 86_400_000
  expect((await pair(code)).status).toBe(404)
  expect(await describeWith(key)).toBe(200)
  expect((await keys.list())[0]!.usedAt).toBe(now)
})
