import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { hkdf } from '@noble/hashes/hkdf.js'
import { sha256 } from '@noble/hashes/sha2.js'
import { type Ledger, openLedger } from '../ledger'
import { endsWithMark, type MarkPurpose, markOf, markPurposes } from '../marks'
import { openStore } from '../subjects'
import { type LinkKeys, sealingWith } from '.'

const DAY_MS = 86_400_000
const sealing = sealingWith(() => 'the secret of this test')
let folder: string
let ledger: Ledger
let time: number
beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'link-keys-'))
  time = Date.parse('2026-12-02T10:00:00Z')
  ledger = await opened()
})
afterEach(async () => {
  await ledger.close()
  rmSync(folder, { recursive: true, force: true })
})

const opened = async (how = sealing) => {
  const there = await openLedger(
    await openStore(folder),
    () => time,
    () => time,
    how,
  )
  await there.beginLinkKeys()
  return there
}
async function openedAnew(how = sealing): Promise<void> {
  await ledger.close()
  ledger = await opened(how)
}
const record = (key: string, more: object = {}) => {
  const root = { key, madeAt: time, by: null, ...more }
  return { links: [root], services: [root], erased: [root], anew: {} }
}
const keepRecord = (body: object) => ledger.values.keep('link keys', sealing.seal(JSON.stringify(body), 'link keys'))

/** A mark of each purpose, and the purposes whose marks are good at another time. */
const marksBy = (keys: LinkKeys) => new Map(markPurposes.map((purpose) => [purpose, markOf(keys, purpose, 'wren')]))
const goodOf = (keys: LinkKeys, marks: Map<MarkPurpose, string>) =>
  markPurposes.filter((purpose) => endsWithMark(keys, `x-${marks.get(purpose)!}`, purpose, 'wren'))

test('each purpose has a key of its own by HKDF with SHA-256 (RFC 5869), as @noble/hashes derives it', async () => {
  const root = Buffer.alloc(32, 7)
  await keepRecord(record(root.toString('base64url')))
  await openedAnew()
  const keys = await ledger.linkKeys()
  for (const purpose of markPurposes) {
    const expected = hkdf(sha256, root, undefined, new TextEncoder().encode(`askbox ${purpose}`), 32)
    expect([purpose, keys.newest(purpose)]).toEqual([purpose, Buffer.from(expected).toString('base64url')])
  }
  expect(new Set(markPurposes.map((purpose) => keys.newest(purpose))).size).toBe(markPurposes.length)
})

test('it is sealed in the store, the same at each start', async () => {
  const marks = marksBy(await ledger.linkKeys())
  const stored = String(await ledger.values.value('link keys'))
  expect(stored).toMatch(/^s1\./)
  await openedAnew()
  expect(marksBy(await ledger.linkKeys())).toEqual(marks)
})

test('made anew after a suspicion, what it marked is good for leaving alone; services and erased people are known as before', async () => {
  const before = await ledger.linkKeys()
  const marks = marksBy(before)
  const [service, erased] = [before.serviceMarks('lettershop'), before.erasedHashes('wren@post.example')]
  await ledger.keptLinkKeys.makeAnew('somekey')
  const after = await ledger.linkKeys()
  expect(goodOf(after, marks)).toEqual(['leave'])
  expect(goodOf(after, marksBy(after))).toEqual([...markPurposes])
  expect(after.serviceMarks('lettershop')).toEqual(service)
  expect(after.erasedHashes('wren@post.example')).toEqual(erased)
  expect(await ledger.keptLinkKeys.standing()).toEqual({
    madeAt: time,
    by: 'somekey',
    suspects: [time],
    hasUnopened: false,
  })
})

test('it is made anew each year by itself, and all that was marked before stays good', async () => {
  const before = await ledger.linkKeys()
  const marks = marksBy(before)
  time += 364 * DAY_MS
  await openedAnew()
  expect(marksBy(await ledger.linkKeys())).toEqual(marks)
  time += 2 * DAY_MS
  await openedAnew()
  const after = await ledger.linkKeys()
  expect(marksBy(after).get('leave')).not.toBe(marks.get('leave'))
  expect(goodOf(after, marks)).toEqual([...markPurposes])
  expect(await ledger.keptLinkKeys.standing()).toMatchObject({ madeAt: time, by: null, suspects: [] })
})

test('the address of one service is made anew by its own press, and no other', async () => {
  const before = await ledger.linkKeys()
  await ledger.keptLinkKeys.makeServiceAnew('lettershop', 'somekey')
  const after = await ledger.linkKeys()
  expect(after.serviceMarks('lettershop')).not.toEqual(before.serviceMarks('lettershop'))
  expect(after.serviceMarks('another')).toEqual(before.serviceMarks('another'))
  expect(after.serviceAnew('lettershop')).toMatchObject({ at: time, by: 'somekey' })
})

test('the key that lay among the objects leaves them; what it marked is good, and new links have another', async () => {
  const plain = 'k'.repeat(43)
  const old: LinkKeys = { ...(await ledger.linkKeys()), newest: () => plain, accepted: () => [plain] }
  const marks = marksBy(old)
  await ledger.takeChanges([{ kind: 'preferences', key: 'workshop', base: 0, body: { videoHosts: ['video.example'] } }])
  const engine = await ledgerEngine()
  await engine.run(async (transaction) => {
    const stored = (await transaction.object('preferences', 'workshop'))!
    await transaction.keepObject({ ...stored, body: { ...stored.body, linkKey: plain } as never })
  })
  await engine.close()
  ledger = await opened()
  const [kept] = await ledger.objectsOf('preferences')
  expect(kept).toEqual({ videoHosts: ['video.example'] })
  const keys = await ledger.linkKeys()
  expect(goodOf(keys, marks)).toEqual([...markPurposes])
  expect(keys.newest('leave')).not.toBe(plain)
  async function ledgerEngine() {
    await ledger.close()
    return openStore(folder)
  }
})

test('what another secret sealed is set aside, told, and good again once that secret is back', async () => {
  const marks = marksBy(await ledger.linkKeys())
  const complaints = jest.spyOn(console, 'error').mockImplementation(() => {})
  await openedAnew(sealingWith(() => 'another secret'))
  expect(goodOf(await ledger.linkKeys(), marks)).toEqual([])
  expect(await ledger.keptLinkKeys.standing()).toMatchObject({ hasUnopened: true })
  expect(complaints.mock.calls.flat().join(' ')).toContain('ASKBOX_SECRET')
  await openedAnew()
  expect(goodOf(await ledger.linkKeys(), marks)).toEqual([...markPurposes])
  complaints.mockRestore()
})

test('in a file under a passphrase it goes to another receiver, which keeps its own beside it', async () => {
  const marks = marksBy(await ledger.linkKeys())
  const erased = (await ledger.linkKeys()).erasedHashes('wren@post.example')
  const sealed = await ledger.keptLinkKeys.sealedWith('open nights')
  expect(sealed).not.toContain((await ledger.linkKeys()).newest('leave'))
  await ledger.close()
  rmSync(folder, { recursive: true })
  ledger = await opened()
  const own = marksBy(await ledger.linkKeys())
  for (const [text, passphrase] of [
    [sealed, 'another one'],
    ['nothing of ours', 'open nights'],
    [`${sealed.slice(0, -3)}aaa`, 'open nights'],
  ] as const)
    expect(await ledger.keptLinkKeys.takeSealed(text, passphrase)).toBe(false)
  expect(goodOf(await ledger.linkKeys(), marks)).toEqual([])
  expect(await ledger.keptLinkKeys.takeSealed(sealed, 'open nights')).toBe(true)
  const keys = await ledger.linkKeys()
  expect(goodOf(keys, marks)).toEqual([...markPurposes])
  expect(goodOf(keys, own)).toEqual([...markPurposes])
  expect(keys.erasedHashes('wren@post.example')).toEqual(expect.arrayContaining(erased))
})
