import fc from 'fast-check'
import { spf as mailauthSpf } from 'mailauth/lib/spf/index.js'
import { expandSpfMacros, isSpf, readSpf } from '#core/sender'
import { times } from '../../../../tests/seed'
import { type Zone, zoneServers } from '../../../../tests/name-zone'
import { checkSpf } from './spf'

/** RFC 7208, appendix A, without the names for reverse look-ups (from memory). */
const appendixA: Zone = {
  a: {
    'example.com': ['192.0.2.10', '192.0.2.11'],
    'amy.example.com': ['192.0.2.65'],
    'bob.example.com': ['192.0.2.66'],
    'mail-a.example.com': ['192.0.2.129'],
    'mail-b.example.com': ['192.0.2.130'],
    'mail-c.example.org': ['192.0.2.140'],
  },
  mx: {
    'example.com': ['mail-a.example.com', 'mail-b.example.com'],
    'example.org': ['mail-c.example.org'],
  },
}

test.each([
  ['v=spf1 +all', [10, 65, 129, 140], []],
  ['v=spf1 a -all', [10, 11], [65, 129]],
  ['v=spf1 a:example.org -all', [], [10, 140]],
  ['v=spf1 mx -all', [129, 130], [10, 140]],
  ['v=spf1 mx:example.org -all', [140], [129, 130]],
  ['v=spf1 mx mx:example.org -all', [129, 130, 140], [10]],
  ['v=spf1 mx/30 mx:example.org/30 -all', [128, 129, 131, 140, 143], [132, 144]],
  ['v=spf1 ip4:192.0.2.128/28 -all', [129], [65]],
])('RFC 7208, appendix A.1: %s', async (text, passing, failing) => {
  const servers = zoneServers({ ...appendixA, txt: { 'example.com': [text] } })
  const resultFor = async (last: number) =>
    (await checkSpf({ domain: 'example.com', address: `192.0.2.${last}` }, servers)).result
  for (const last of passing) expect([last, await resultFor(last)]).toEqual([last, 'pass'])
  for (const last of failing) expect([last, await resultFor(last)]).toEqual([last, 'fail'])
})

test.each([
  ['%{s}', 'strong-bad@email.example.com'],
  ['%{o}', 'email.example.com'],
  ['%{d}', 'email.example.com'],
  ['%{d4}', 'email.example.com'],
  ['%{d3}', 'email.example.com'],
  ['%{d2}', 'example.com'],
  ['%{d1}', 'com'],
  ['%{dr}', 'com.example.email'],
  ['%{d2r}', 'example.email'],
  ['%{l}', 'strong-bad'],
  ['%{l-}', 'strong.bad'],
  ['%{lr}', 'strong-bad'],
  ['%{lr-}', 'bad.strong'],
  ['%{l1r-}', 'strong'],
  ['%{ir}.%{v}._spf.%{d2}', '3.2.0.192.in-addr._spf.example.com'],
  ['%{lr-}.lp._spf.%{d2}', 'bad.strong.lp._spf.example.com'],
  ['%{ir}.%{v}.%{l1r-}.lp._spf.%{d2}', '3.2.0.192.in-addr.strong.lp._spf.example.com'],
])('RFC 7208, section 7.4: %s is %s', (text, expanded) =>
  expect(
    expandSpfMacros(text, {
      sender: 'strong-bad@email.example.com',
      domain: 'email.example.com',
      address: { dotted: '192.0.2.3', family: 4 },
      helo: 'mx.example.org',
    }),
  ).toBe(expanded),
)

test.each([
  ['v=spf1', true],
  ['v=spf1 -all', true],
  ['V=SPF1 -all', true],
  ['v=spf10 -all', false],
  ['v=spf1-all', false],
  ['v=spf1include:_spf.mail.example -all', false],
  [' v=spf1 -all', false],
])('“%s” is an SPF record: %s', (text, is) => expect(isSpf(text)).toBe(is))

test.each([
  ['v=spf1 -al', '-al'],
  ['v=spf1 include: -all', 'include:'],
  ['v=spf1 ip4:1.2.3 -all', 'ip4:1.2.3'],
  ['v=spf1 ip4:192.0.2.1/33 -all', 'ip4:192.0.2.1/33'],
  ['v=spf1 a:hill.example/08 -all', 'a:hill.example/08'],
  ['v=spf1 ip6:2001:db8::/129 -all', 'ip6:2001:db8::/129'],
  ['v=spf1 redirect=a.example redirect=b.example', 'redirect=b.example'],
  ['v=spf1 all:hill.example', 'all:hill.example'],
  ['v=spf1 includes:a.example', 'includes:a.example'],
])('“%s” cannot be read at “%s”', (text, term) => expect(readSpf(text)).toEqual({ ok: false, term }))

test('what is unknown, and a word of explanation, do no harm', () =>
  expect(readSpf('v=spf1 moo=1 exp=why.hill.example  ip6:2001:db8::/32 ~all')).toMatchObject({ ok: true }))

const names = ['hill.example', 'a.example', 'b.example', 'c.example', 'none.example'] as const
const qualifier = fc.constantFrom('', '-', '~', '?')
const name = fc.constantFrom(...names)
const mechanism = fc.oneof(
  fc
    .tuple(qualifier, fc.constantFrom('include', 'a', 'mx', 'exists'), name)
    .map(([sign, kind, to]) => `${sign}${kind}:${to}`),
  fc.tuple(qualifier, fc.integer({ min: 0, max: 3 })).map(([sign, last]) => `${sign}ip4:192.0.2.${last}`),
  fc.constantFrom(
    'ip4:192.0.2.0/31',
    'ip6:2001:db8::/64',
    'a',
    'mx',
    'a/31',
    'moo=1',
    'nonsense',
    'exists:%{i}.a.example',
  ),
)
const record = fc
  .tuple(
    fc.array(mechanism, { maxLength: 5 }),
    fc.option(name, { freq: 4 }),
    fc.constantFrom('', '-all', '~all', '?all'),
  )
  .map(([mechanisms, redirect, all]) =>
    ['v=spf1', ...mechanisms, ...(redirect === null ? [] : [`redirect=${redirect}`]), all].filter(Boolean).join(' '),
  )
const zone = fc.record({
  txt: fc.dictionary(name, fc.array(record, { minLength: 1, maxLength: 1 }), { noNullPrototype: true }),
  a: fc.dictionary(
    name,
    fc.array(fc.constantFrom('192.0.2.0', '192.0.2.1', '192.0.2.2'), { minLength: 1, maxLength: 2 }),
    {
      noNullPrototype: true,
    },
  ),
  mx: fc.dictionary(name, fc.array(name, { minLength: 1, maxLength: 2 }), { noNullPrototype: true }),
})

/** The outside judge over the same zone. */
async function judgedByMailauth(drawn: Zone, ip: string): Promise<string> {
  const servers = zoneServers(drawn)
  const resolver = async (asked: string, type: string): Promise<unknown> => {
    if (type === 'TXT') return servers.txt(asked)
    if (type === 'MX') return servers.mx(asked)
    return servers.addresses(asked, type === 'A' ? 4 : 6)
  }
  const { status } = await mailauthSpf({
    sender: 'postmaster@hill.example',
    ip,
    helo: 'hill.example',
    mta: 'mx.example',
    resolver: resolver as never,
  })
  return (status as { result: string }).result
}

test('any zone is judged as mailauth judges it', async () => {
  const seen = new Set<string>()
  await fc.assert(
    fc.asyncProperty(zone, fc.integer({ min: 0, max: 3 }), async (drawn, last) => {
      const ip = `192.0.2.${last}`
      const ours = await checkSpf({ domain: 'hill.example', address: ip }, zoneServers(drawn))
      seen.add(ours.result)
      expect(ours.result).toBe(await judgedByMailauth(drawn, ip))
    }),
    { numRuns: times({ short: 400, whole: 1_000, endure: 3_000 }) },
  )
  expect(seen.size).toBeGreaterThan(3)
})
