import fc from 'fast-check'
import { answerLink } from '.'

const anyText = fc.string({ unit: 'binary', maxLength: 400 })

test('whatever was typed, an answer goes to that address alone, with that subject, and quotes the text: RFC 6068, judged by the URL standard’s parser', () => {
  const address = fc.oneof(
    fc.emailAddress(),
    fc.constantFrom(
      'a?cc=everybody@victims.example',
      'a&bcc=b%40c@hill.example',
      "o'brien+x#y@hill.example",
      'a,b@c.example',
      'a%2Cb@c.example',
    ),
  )
  fc.assert(
    fc.property(address, anyText, anyText, (to, subject, text) => {
      const link = answerLink({ to, subject, text })
      const url = new URL(link)
      expect(url.protocol).toBe('mailto:')
      expect(decodeURIComponent(url.pathname)).toBe(to)
      expect(url.pathname).not.toContain(',')
      expect([...url.searchParams.keys()]).toEqual(['subject', 'body'])
      const whole = subject.replace(/\p{Cs}/gu, '\ufffd')
      expect(url.searchParams.get('subject')).toBe(whole)
      const quoted = `\r\n\r\n${text
        .replace(/\p{Cs}/gu, '\ufffd')
        .split('\n')
        .map((line) => `> ${line}`)
        .join('\r\n')}`
      expect(quoted.startsWith(url.searchParams.get('body')!)).toBe(true)
      expect(url.hash).toBe('')
    }),
  )
})

test('a long text is cut at a whole character, so that mail programs take the address', () => {
  const link = answerLink({ to: 'wren@hill.example', subject: 'Re: stars', text: '🌙'.repeat(2_000) })
  expect(link.length).toBeLessThanOrEqual(1_900)
  expect(link.length).toBeGreaterThan(1_850)
  expect(new URL(link).searchParams.get('body')).toMatch(/^\r\n\r\n> 🌙+$/u)
})
