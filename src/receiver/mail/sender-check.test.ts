import { checkSender } from './sender-check'

/** A stand-in name server. */
const records: Record<string, string[]> = {
  'hill.example': ['v=spf1 include:_spf.mail.example -all', 'other=1'],
  '_dmarc.hill.example': ['v=DMARC1; p=reject; rua=mailto:x@hill.example'],
  'open.example': ['v=spf1 +all'],
  'twice.example': ['v=spf1 -all', 'v=spf1 ~all'],
}
const resolveTxt = async (name: string) => {
  if (name.endsWith('silent.example')) throw Object.assign(new Error('x'), { code: 'ETIMEOUT' })
  const found = records[name]
  if (found === undefined) throw Object.assign(new Error('x'), { code: 'ENOTFOUND' })
  // A long record comes in several strings (RFC 7208, section 3.3).
  return found.map((text) => [text.slice(0, 9), text.slice(9)])
}
const verdicts = async (sender: string, bounce = '') =>
  Object.fromEntries(
    (await checkSender({ sender, bounce, host: null }, resolveTxt)).map(({ about, verdict }) => [about, verdict]),
  )

test.each([
  ['letters@hill.example', '', { 'return-path': 'good', spf: 'good', dmarc: 'good' }],
  ['letters@hill.example', 'b@bounce.hill.example', { 'return-path': 'good', spf: 'look', dmarc: 'good' }],
  ['letters@hill.example', 'b@hosting.example', { 'return-path': 'look', spf: 'look', dmarc: 'good' }],
  ['letters@open.example', '', { 'return-path': 'good', spf: 'look', dmarc: 'look' }],
  ['letters@twice.example', '', { 'return-path': 'good', spf: 'look', dmarc: 'look' }],
  ['letters@silent.example', '', { 'return-path': 'good', spf: 'unknown', dmarc: 'unknown' }],
  ['not an address', '', {}],
])('%s with bounces to “%s”', async (sender, bounce, wanted) => expect(await verdicts(sender, bounce)).toEqual(wanted))

test('what the records say is said in words', async () => {
  const found = await checkSender({ sender: 'a@hill.example', bounce: '', host: 'smtp.mail.example' }, resolveTxt)
  expect(found.find(({ about }) => about === 'dmarc')).toMatchObject({
    found: 'v=DMARC1; p=reject; rua=mailto:x@hill.example',
    says: expect.stringMatching(/refused/),
  })
  expect(found.find(({ about }) => about === 'spf')?.says).toBe(
    'Servers of _spf.mail.example may send for hill.example. All others are refused.',
  )
})
