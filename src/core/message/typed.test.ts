import fc from 'fast-check'
import LinkifyIt from 'linkify-it'
import { greetingName, withoutLinks } from '.'

/** linkify-it finds links in plain text for mail and chat programs; told here to take any ending for a domain's. */
const finder = new LinkifyIt({}, { fuzzyIP: true, fuzzyEmail: true, fuzzyLink: true }).tlds(
  ['example', 'com', 'org', 'рф'],
  true,
)

describe('what is greeted as a name', () => {
  test.each([
    'Wren',
    'Zoë Ångström-Müller',
    "Siobhán O’Brien D'Arcy",
    'J.R.',
    'نورة بنت فهد',
    '𠮷田 光',
    'Dr. Ada',
    'Anne-Marie',
  ])('%s is', (name) => expect(greetingName(` ${name} `)).toBe(name))
  test.each([
    'https://evil.example/prize',
    'evil.example',
    'wren@evil.example',
    'www.evil.example',
    'evil。example',
    'evil．example',
    'evil․example',
    'ｗren＠evil',
    'Wren \u202eelpmaxe',
    '=?utf-q?Wren?=',
    'Call 555 01',
    '٠١٢',
    'mailto:wren',
    'You have won, claim the prize at once today',
    'a/b',
    'one\ntwo',
    '<b>',
  ])('%j is not', (typed) => expect(greetingName(typed)).toBe(''))
})

test.each([
  'https://evil.example/prize?x=1',
  'www.evil.example',
  'evil.example',
  'wren@evil.example',
  'mailto:wren@evil.example',
  '//evil.example/x',
  'see https://evil.example.',
  'http://192.0.2.1:8080/a',
])('in “%s” a program finds a link, and none once it was broken up', (typed) => {
  expect(finder.test(typed)).toBe(true)
  expect(finder.match(withoutLinks(typed))).toBeNull()
})

test('no text has a link in it once it was broken up, and it is read the same without the hair spaces', () => {
  const part = fc.constantFrom(
    'https:',
    '//',
    '/',
    '.',
    'evil',
    'example',
    'com',
    '@',
    'www',
    ':',
    'a',
    ' ',
    '\u200b',
    '。',
    '\\',
    'ftp:',
    'mailto:',
    '1',
    '?',
    '#',
  )
  fc.assert(
    fc.property(
      fc.oneof(
        fc.array(part, { maxLength: 20 }).map((parts) => parts.join('')),
        fc.webUrl(),
        fc.emailAddress(),
      ),
      (typed) => {
        const broken = withoutLinks(typed)
        expect(finder.match(broken)).toBeNull()
        expect(broken.replaceAll('\u200a', '')).toBe(typed)
      },
    ),
  )
})
