import fc from 'fast-check'
import { toASCII } from 'tr46'
import { emailAddresses } from '../../../tests/tables/email-addresses'
import { meantAddress, parseEmail, readTyped, tidyAddress } from '.'

describe('HTML Living Standard 4.10.5.1.5, "valid email address"', () => {
  test.each(emailAddresses)('$why: $address', ({ address, isValid }) => {
    expect(parseEmail(address).ok).toBe(isValid)
  })
})

describe('RFC 5321 section 4.5.3.1, size limits', () => {
  const domainOf = (length: number) =>
    Array.from({ length }, (_, at) => (at % 64 === 63 && at < length - 1 ? '.' : 'b')).join('')
  test.each([
    { local: 64, domain: 20, fits: true, rule: 'local part of 64 octets' },
    { local: 65, domain: 20, fits: false, rule: 'local part of 65 octets' },
    { local: 10, domain: 243, fits: true, rule: 'path of 256 octets with its brackets' },
    { local: 11, domain: 243, fits: false, rule: 'path of 257 octets' },
    { local: 1, domain: 258, fits: false, rule: 'domain of more than 255 octets' },
  ])('$rule', ({ local, domain, fits }) => {
    const address = `${'x'.repeat(local)}@${domainOf(domain)}`
    expect(address.length).toBe(local + 1 + domain)
    expect(parseEmail(address)).toMatchObject(fits ? { ok: true } : { ok: false, problem: { code: 'too-long' } })
  })
})

describe('internationalized domains', () => {
  test.each([
    'bücher.example',
    'BÜCHER.example',
    'faß.example',
    '例え.テスト',
    'ｆｕｌｌ.example',
    'a.ελληνικά.example',
  ])('%s becomes what UTS #46 says (tr46)', (domain) => {
    const expected = toASCII(domain, {
      checkHyphens: false,
      checkBidi: true,
      checkJoiners: true,
      useSTD3ASCIIRules: false,
      verifyDNSLength: false,
      transitionalProcessing: false,
    })
    expect(parseEmail(`a@${domain}`)).toMatchObject({
      ok: true,
      email: { typed: `a@${domain}`, compared: `a@${expected}` },
    })
  })
})

test('what was typed is kept, and only letter case and white space around are ignored in comparing', () => {
  expect(parseEmail('\t Ada@Mail.EXAMPLE\n')).toEqual({
    ok: true,
    email: { typed: 'Ada@Mail.EXAMPLE', compared: 'ada@mail.example' },
  })
})

test('property: any text gives an answer, and an accepted address is stable, harmless ASCII', () => {
  fc.assert(
    fc.property(fc.oneof(fc.string({ unit: 'binary' }), fc.emailAddress(), fc.webUrl()), (text) => {
      const parsed = parseEmail(text)
      if (!parsed.ok) return parsed.problem.message.length > 0
      const { compared } = parsed.email
      const again = parseEmail(compared)
      return /^[\x21-\x7e]+$/.test(compared) && again.ok && again.email.compared === compared
    }),
  )
})

describe('which address may have been meant', () => {
  test.each([
    // Slips that mail providers' own help pages warn of; which ones, from memory.
    ['Wren@gmial.com', 'wren@gmail.com'],
    ['wren@gmail.con', 'wren@gmail.com'],
    ['wren@gmail.co', 'wren@gmail.com'],
    ['wren@hotmial.com', 'wren@hotmail.com'],
    ['wren@yaho.com', 'wren@yahoo.com'],
  ])('%s: %s', (typed, meant) => {
    expect(meantAddress(typed)).toBe(meant)
  })
  test.each([
    'wren@gmail.com',
    'wren@yahoo.de',
    'wren@gmx.at',
    'wren@mail.com',
    'wren@abc.com',
    'wren@post.example',
    'wren@cloudberryhill.example',
    'wren@bücher.example',
    'wren@',
    '@gmial.com',
    'wren@gmial.com@x',
    '',
  ])('nothing is asked about %s', (typed) => {
    expect(meantAddress(typed)).toBeNull()
  })
  test('property: whatever stands before the @, a slip behind it is asked about with the same before it', () => {
    const local = fc.string({ unit: fc.constantFrom(...'abcXYZ0189._+-'), minLength: 1, maxLength: 40 })
    const slips = fc.constantFrom('gmial.com', 'gmail.con', 'hotmial.com', 'yaho.com')
    let asked = 0
    fc.assert(
      fc.property(local, slips, (before, domain) => {
        const meant = meantAddress(`${before}@${domain}`)
        if (!parseEmail(`${before}@${domain}`).ok) return
        asked += 1
        expect(meant?.split('@')[0]).toBe(before.toLowerCase())
        expect(meant?.split('@')[1]).not.toBe(domain)
      }),
    )
    expect(asked).toBeGreaterThan(0)
  })
})

describe('what a visitor types', () => {
  // Slips as phones, keyboards and copied mail make them: common practice, no published source.
  test.each([
    ['ｗｒｅｎ＠ｍ．ｅｘａｍｐｌｅ', 'wren@m.example'],
    ['mailto:wren@m.example', 'wren@m.example'],
    ['Wren Foss <wren@m.example>', 'wren@m.example'],
    ['wren@m.example.', 'wren@m.example'],
    ['wren@m.example,', 'wren@m.example'],
    ['\u200bwren@m.example\ufeff', 'wren@m.example'],
    [' wren@bücher.example ', 'wren@xn--bcher-kva.example'],
    ['wren@localhost', 'no-domain'],
    ['wren@m.example،', 'no-domain'],
    ['wren@m،example', 'no-domain'],
    ['jürgen@m.example', 'not-ascii'],
    ['wren@', 'invalid'],
    ['', 'missing'],
    ['wren', 'no-at-sign'],
  ])('%s: %s', (typed, expected) => {
    const read = readTyped(typed)
    expect(typeof read === 'string' ? read : read.compared).toBe(expected)
  })

  test('property: tidied twice is tidied once, and what is an address stays one', () => {
    fc.assert(
      fc.property(fc.oneof(fc.string({ unit: 'grapheme', maxLength: 40 }), fc.emailAddress()), (text) => {
        const tidy = tidyAddress(text)
        expect(tidyAddress(tidy).length).toBeLessThanOrEqual(tidy.length)
        const read = readTyped(text)
        if (typeof read !== 'string') expect(readTyped(read.typed)).toEqual(read)
      }),
    )
  })
})
