import { chmodSync, chownSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { makeDataFolder, rootWarning } from './data-folder'
import { unknownSetting } from './setting-names'

test.each([
  ['ASKBOX_PRT', 'ASKBOX_PORT'],
  ['ASKBOX_DAT', 'ASKBOX_DATA'],
  ['ASKBOX_PUBLICURL', 'ASKBOX_PUBLIC_URL'],
  ['ASKBOX_PUBLIC_ULR', 'ASKBOX_PUBLIC_URL'],
  ['ASK_BOX_SECRET', 'ASKBOX_SECRET'],
  ['askbox_key', 'ASKBOX_KEY'],
  ['ASKBOX_TRUST_PROXIES', 'ASKBOX_TRUST_PROXY'],
  ['ASKBOX_DATABASE_URL', 'DATABASE_URL'],
  ['ASKBOX_SMTP_URL', 'SMTP_URL'],
])('%s is no setting, %s is', (name, meant) =>
  expect(unknownSetting({ [name]: 'x' })).toBe(`${name} is no setting. Did you mean ${meant}?`),
)

test('what is far from any setting, or not ours, is left alone', () => {
  for (const name of [
    'ASKBOX_IMAGE_TAG',
    'ASKBOX_TAG',
    'ASKBOX_UID',
    'ASKBOX_SEED',
    'ASKBOX_RUN',
    'ASKBOX_ROOT',
    'ASKBOX_PATIENCE',
    'ASKBOX_E2E_REPORT',
  ])
    expect([name, unknownSetting({ [name]: 'x' })]).toEqual([name, null])
  expect(unknownSetting({ PATH: '/bin', DATABASE_URL: '', ASKBOX_PORT: '1', ASKBOX_SEED: '4' })).toBeNull()
})

/** Root may write anywhere: the cases are another user's, where these tests may become one. */
const NOBODY = 65_534
const isRoot = process.geteuid?.() === 0
const user = isRoot ? NOBODY : (process.geteuid?.() ?? 0)
function asUser(work: () => void): void {
  if (!isRoot) return work()
  process.seteuid!(NOBODY)
  try {
    work()
  } finally {
    process.seteuid!(0)
  }
}

describe('a data folder', () => {
  let place: string
  beforeEach(() => {
    place = mkdtempSync(join(tmpdir(), 'ask-box-surroundings-'))
    chmodSync(place, 0o755)
  })
  afterEach(() => rmSync(place, { recursive: true, force: true }))
  const folderOf = (uid: number, mode: number) => {
    const folder = join(place, 'data')
    mkdirSync(folder)
    if (isRoot) chownSync(folder, uid, 0)
    chmodSync(folder, mode)
    return folder
  }

  test('that may be written to is made, and taken up again', () => {
    const folder = folderOf(user, 0o700)
    asUser(() => makeDataFolder(join(folder, 'below', 'it')))
    asUser(() => makeDataFolder(folder))
  })
  test('with a file in its place', () => {
    writeFileSync(join(place, 'file'), '')
    for (const path of ['file', 'file/data'])
      expect(() => makeDataFolder(join(place, path))).toThrow(
        /^The data folder .* \(ASKBOX_DATA\) .*file is a file\. Name a folder/,
      )
  })
  test('that its own user may only read', () =>
    expect(() => asUser(() => makeDataFolder(folderOfUser()))).toThrow(
      /may not be written to by its own user .*chmod -R u\+rwX/,
    ))
  const folderOfUser = () => {
    if (isRoot) process.seteuid!(0)
    const folder = folderOf(user, 0o500)
    if (isRoot) process.seteuid!(NOBODY)
    return folder
  }
  test('below one that may not be written to', () => {
    const folder = folderOf(user, 0o500)
    expect(() => asUser(() => makeDataFolder(join(folder, 'data')))).toThrow(/user \d+ may make nothing in .*chown/)
  })
  const asOthers = isRoot ? test : test.skip
  asOthers('that belongs to another', () => {
    const folder = folderOf(1, 0o755)
    expect(() => asUser(() => makeDataFolder(folder))).toThrow(
      /belongs to user 1, and this is user 65534\. .*chown -R 65534/,
    )
    expect(rootWarning(folder)).toMatch(/belongs to user 1/)
  })
  asOthers('with files that belong to another', () => {
    const folder = folderOf(user, 0o700)
    for (const file of ['askbox.sqlite', 'owner.key', 'care.json']) {
      writeFileSync(join(folder, file), 'x', { mode: 0o600 })
      expect(() => asUser(() => makeDataFolder(folder))).toThrow(
        new RegExp(`^${file} in the data folder .* belongs to user 0`),
      )
      rmSync(join(folder, file))
    }
  })
})
