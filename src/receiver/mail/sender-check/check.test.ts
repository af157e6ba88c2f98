import fc from 'fast-check'
import getDmarcRecord from 'mailauth/lib/dmarc/get-dmarc-record.js'
import { getPublicKey } from 'mailauth/lib/tools.js'
import type { SenderFinding } from '#core/api'
import { isAligned, organizationalDomain, readDkim, readDmarc } from '#core/sender'
import { times } from '../../../../tests/seed'
import { startNameServer, type Zone, zoneServers } from '../../../../tests/name-zone'
import { dkimRecord, makeDkim } from '../dkim'
import { checkSender, nameServers, type SenderParts } from '.'

const dkim = makeDkim('hill.example', 'askbox')
const { name: keyName, value: keyValue } = dkimRecord(dkim)
const otherKey = dkimRecord(makeDkim('hill.example', 'askbox')).value
/** A mail service: its records, and where it takes mail. */
const service: Zone = {
  txt: { '_spf.post.example': ['v=spf1 ip4:198.51.100.0/24 -all'] },
  a: { 'smtp.post.example': ['198.51.100.7'], 'mail.hill.example': ['203.0.113.9'] },
}
const many = ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h', 'i', 'j', 'k'].map((letter) => `include:${letter}.big.example`)

function withRecords(txt: Record<string, string[]>): Zone {
  const big = many.map((term) => [term.slice(8), ['v=spf1 ip4:192.0.2.1 -all']] satisfies [string, string[]])
  return { ...service, txt: { ...service.txt, ...Object.fromEntries(big), ...txt } }
}

const check = (zone: Zone, parts: Partial<SenderParts> = {}) =>
  checkSender(
    { sender: 'letters@hill.example', bounce: '', host: 'smtp.post.example', dkim: null, ...parts },
    zoneServers(zone),
  )
const about = (findings: SenderFinding[], what: SenderFinding['about']) => findings.find((one) => one.about === what)!

/** Puts a proposal where the owner would put it. */
function pasted(zone: Zone, { proposed }: SenderFinding): Zone {
  if (proposed === null) throw new Error('Nothing is proposed.')
  const before = zone.txt?.[proposed.name] ?? []
  const after = [...before.filter((text) => !proposed.replaces.includes(text)), proposed.value]
  return { ...zone, txt: { ...zone.txt, [proposed.name]: after } }
}

describe('SPF', () => {
  test.each<[string, string[], SenderFinding['verdict'], string | null]>([
    ['none', [], 'look', 'v=spf1 include:_spf.post.example ~all'],
    ['the service’s', ['v=spf1 include:_spf.post.example -all', 'other=1'], 'good', null],
    ['by redirect', ['v=spf1 redirect=_spf.post.example'], 'good', null],
    ['another’s', ['v=spf1 mx -all'], 'look', 'v=spf1 mx include:_spf.post.example -all'],
    ['everybody’s', ['v=spf1 include:_spf.post.example +all'], 'look', 'v=spf1 include:_spf.post.example ~all'],
    ['two', ['v=spf1 mx -all', 'v=spf1 a ~all'], 'look', 'v=spf1 mx a include:_spf.post.example ~all'],
    [
      'with the blank left out',
      ['v=spf1include:_spf.post.example -all'],
      'look',
      'v=spf1 include:_spf.post.example ~all',
    ],
    ['one that only begins alike', ['v=spf10 -all'], 'look', 'v=spf1 include:_spf.post.example ~all'],
    ['a misspelt one', ['v=spf1 inlcude:_spf.post.example -all'], 'look', null],
    ['of a provider that is gone', ['v=spf1 include:gone.example include:_spf.post.example -all'], 'look', null],
    ['with eleven look-ups before ours', [`v=spf1 ${many.join(' ')} include:_spf.post.example -all`], 'look', null],
    ['with eleven look-ups after ours', [`v=spf1 include:_spf.post.example ${many.join(' ')} -all`], 'good', null],
  ])('%s', async (_, texts, verdict, value) => {
    const zone = withRecords({ 'hill.example': texts })
    const found = about(await check(zone), 'spf')
    expect([found.verdict, found.proposed?.value ?? null]).toEqual([verdict, value])
    if (found.proposed !== null) expect(about(await check(pasted(zone, found)), 'spf').verdict).toBe('good')
  })

  test.each([
    ['mail.hill.example', 'v=spf1 a:mail.hill.example ~all'],
    ['203.0.113.9', 'v=spf1 ip4:203.0.113.9 ~all'],
    ['2001:db8::9', 'v=spf1 ip6:2001:db8::9 ~all'],
    ['10.0.0.9', undefined],
    ['localhost', undefined],
  ])('for mail that goes through %s', async (host, value) =>
    expect(about(await check(withRecords({}), { host }), 'spf').proposed?.value).toBe(value),
  )

  test('a service hands mail out by other addresses of the same provider', async () => {
    const zone = withRecords({
      'hill.example': ['v=spf1 include:out.post.example -all'],
      'out.post.example': ['v=spf1 ip4:192.0.2.77 -all'],
    })
    expect(about(await check(zone), 'spf')).toMatchObject({
      verdict: 'good',
      says: expect.stringContaining('out.post.example'),
    })
  })
})

describe('DMARC', () => {
  test.each<[string, string, Record<string, string[]>, SenderFinding['verdict'], string]>([
    ['none', 'a@hill.example', {}, 'look', '_dmarc.hill.example'],
    ['its own', 'a@hill.example', { '_dmarc.hill.example': ['v=DMARC1; p=none'] }, 'good', ''],
    ['its organization’s', 'a@news.hill.example', { '_dmarc.hill.example': ['v=DMARC1; p=none'] }, 'good', ''],
    [
      'its organization’s, two levels up',
      'a@x.news.hill.co.uk',
      { '_dmarc.hill.co.uk': ['v=DMARC1;p=none'] },
      'good',
      '',
    ],
    [
      'none, below a public suffix',
      'a@news.hill.co.uk',
      { '_dmarc.co.uk': ['v=DMARC1;p=none'] },
      'look',
      '_dmarc.hill.co.uk',
    ],
    ['two', 'a@hill.example', { '_dmarc.hill.example': ['v=DMARC1; p=none', 'v=DMARC1; p=reject'] }, 'look', ''],
    [
      'in small letters',
      'a@hill.example',
      { '_dmarc.hill.example': ['v=dmarc1; p=none'] },
      'look',
      '_dmarc.hill.example',
    ],
    [
      'without a policy',
      'a@hill.example',
      { '_dmarc.hill.example': ['v=DMARC1; pct=50'] },
      'look',
      '_dmarc.hill.example',
    ],
    [
      'that refuses what does not count',
      'a@hill.example',
      { '_dmarc.hill.example': ['v=DMARC1; p=reject'] },
      'good',
      '',
    ],
    ['milder below', 'a@n.hill.example', { '_dmarc.hill.example': ['v=DMARC1; p=reject; sp=none'] }, 'good', ''],
  ])('%s', async (_, sender, txt, verdict, at) => {
    const zone = withRecords(txt)
    const found = about(await check(zone, { sender }), 'dmarc')
    expect([found.verdict, found.proposed?.name ?? '']).toEqual([verdict, at])
    if (found.proposed !== null)
      expect(about(await check(pasted(zone, found), { sender }), 'dmarc').verdict).toBe('good')
  })

  test('mail that neither SPF nor a signature counts for is lost where a policy refuses it', async () => {
    const txt = { '_dmarc.hill.example': ['v=DMARC1; p=reject'] }
    expect(about(await check(withRecords(txt), { dkim }), 'dmarc')).toMatchObject({
      verdict: 'look',
      says: expect.stringContaining('Yours would'),
    })
    const signed = withRecords({ ...txt, [keyName]: [keyValue] })
    expect(about(await check(signed, { dkim }), 'dmarc').verdict).toBe('good')
  })

  test('a strict policy counts whole names only', async () => {
    const [loose, strict] = ['', '; aspf=s'].map((more) =>
      withRecords({ '_dmarc.hill.example': [`v=DMARC1; p=none${more}`] }),
    )
    const bounce = 'back@bounces.hill.example'
    expect(about(await check(loose!, { bounce }), 'return-path').verdict).toBe('good')
    expect(about(await check(strict!, { bounce }), 'return-path').verdict).toBe('look')
  })

  test.each([
    ['bounces.hill.co.uk', 'letters.hill.co.uk', true],
    ['other.co.uk', 'hill.co.uk', false],
    ['co.uk', 'hill.co.uk', false],
    ['hill.example', 'news.hill.example', true],
    ['evilhill.example', 'hill.example', false],
  ])('%s counts for %s: %s (RFC 7489, section 3.1)', (domain, sender, counts) =>
    expect(isAligned(domain, sender)).toBe(counts),
  )

  /** The shapes of RFC 7489, appendix B, and others. */
  const tag = fc.constantFrom(
    'p=none',
    'p=quarantine',
    'p=REJECT',
    'sp=none',
    'sp=reject',
    'pct=25',
    'adkim=s',
    'aspf=r',
    'fo=1',
    'rua=mailto:dmarc@hill.example',
    'p=maybe',
  )
  test('any record is found and read as mailauth does', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.uniqueArray(tag, { selector: (one) => one.split('=')[0], maxLength: 6 }),
        fc.constantFrom('hill.co.uk', 'news.hill.co.uk', 'a.b.hill.co.uk'),
        fc.constantFrom(';', '; ', ' ; '),
        async (tags, domain, joint) => {
          const text = ['v=DMARC1', ...tags].join(joint)
          const servers = zoneServers({ txt: { '_dmarc.hill.co.uk': [text] } })
          const theirs = await getDmarcRecord(domain, (name) => servers.txt(name))
          if (theirs === false) throw new Error('It was not found.')
          expect(organizationalDomain(domain)).toBe('hill.co.uk')
          const ours = readDmarc(text)
          if (ours === null || !['none', 'quarantine', 'reject'].includes(String(theirs.p).toLowerCase())) return
          expect([ours.policy, ours.percent]).toEqual([String(theirs.p).toLowerCase(), theirs.pct ?? 100])
        },
      ),
      { numRuns: times({ short: 100, whole: 500, endure: 5_000 }) },
    )
  })
})

describe('DKIM', () => {
  test.each<[string, string[], SenderFinding['verdict']]>([
    ['no key', [], 'look'],
    ['the key', [keyValue], 'good'],
    ['the key with blanks in it', [keyValue.replace('p=', 'p= ').replace('MII', 'MI I')], 'good'],
    ['the key without a version', [keyValue.replace('v=DKIM1; ', '')], 'good'],
    ['the key, cut off', [keyValue.slice(0, 200)], 'look'],
    ['another key', [otherKey], 'look'],
    ['a key that was taken back', ['v=DKIM1; p='], 'look'],
    ['a key that is only tried', [`${keyValue}; t=y`], 'look'],
    ['a key for other hashes', [keyValue.replace('k=rsa', 'h=sha1')], 'look'],
    ['two', [keyValue, otherKey], 'look'],
  ])('%s', async (_, texts, verdict) => {
    const zone = withRecords({ [keyName]: texts })
    const found = about(await check(zone, { dkim }), 'dkim')
    expect(found.verdict).toBe(verdict)
    if (verdict === 'look') expect(about(await check(pasted(zone, found), { dkim }), 'dkim').verdict).toBe('good')
    // RFC 6376, section 3.6.1, by the outside judge: what is good for us is a key for it.
    if (verdict === 'good')
      await expect(getPublicKey('DKIM', keyName, 1024, async () => [texts])).resolves.toMatchObject({
        publicKey: expect.anything(),
      })
  })

  test('the example of RFC 6376, appendix C, is a key (from memory)', () =>
    expect(
      readDkim(
        'v=DKIM1; p=MIGfMA0GCSqGSIb3DQEBAQUAA4GNADCBiQKBgQDwIRP/UC3SBsEmGqZ9ZJW3/DkMoGeLnQg1fWn7/zYtIxN2SnFCjxOCKG9v3b4jYfcTNh5ijSsq631uBItLa7od+v/RtdC2UzJ1lWT947qR+Rcac2gbto/NMqJ0fzfVjH4OuKhitdY9tf6mcwGjaNBcWToIMmPSPDdQPNUYckcQ2QIDAQAB',
      ),
    ).toMatchObject({ state: 'key', kind: 'rsa' }))

  test('a key of another domain does not count', async () => {
    expect(about(await check(withRecords({}), { dkim: { ...dkim, domain: 'other.example' } }), 'dkim').verdict).toBe(
      'look',
    )
    expect(about(await check(withRecords({})), 'dkim').verdict).toBe('unknown')
  })
})

test('silence is said to be silence, and no address is no sender', async () => {
  const found = await check({}, { sender: 'a@silent.example', host: null, dkim: { ...dkim, domain: 'silent.example' } })
  expect(found.map((one) => [one.about, one.verdict, one.proposed])).toEqual([
    ['return-path', 'good', null],
    ['spf', 'unknown', null],
    ['dkim', 'unknown', null],
    ['dmarc', 'unknown', null],
  ])
  expect(await check({}, { sender: 'not an address' })).toEqual([])
  expect((await check({}, { sender: 'somebody@gmail.com' })).map((one) => one.about)).toEqual(['free-mail'])
})

test('real name servers are asked', async () => {
  const names = await startNameServer(0)
  names.zone.txt = { 'hill.example': ['v=spf1 a:mail.hill.example -all'], '_dmarc.hill.example': ['v=DMARC1; p=none'] }
  names.zone.a = { 'mail.hill.example': ['203.0.113.9'] }
  const found = await checkSender(
    { sender: 'letters@hill.example', bounce: '', host: 'mail.hill.example', dkim },
    nameServers([`127.0.0.1:${names.port}`]),
  ).finally(names.stop)
  expect(found.map((one) => [one.about, one.verdict])).toEqual([
    ['return-path', 'good'],
    ['spf', 'good'],
    ['dkim', 'look'],
    ['dmarc', 'good'],
  ])
})
