import fc from 'fast-check'
import { URLPattern } from 'urlpattern-polyfill/urlpattern'
import { isOnPage, matchesPath, pathPatternProblem } from '.'

/** The URL Pattern Standard (WHATWG), by its polyfill. */
const byTheStandard = (pattern: string, path: string) => new URLPattern({ pathname: pattern }).test({ pathname: path })

const paths = [
  '/',
  '/about',
  '/about/',
  '/posts',
  '/posts/',
  '/posts/first-frost',
  '/posts/2026/frost',
  '/a%20b',
  '/a.b',
  '/stra%C3%9Fe',
]

test.each([
  '/',
  '/about',
  '/posts/*',
  '/posts*',
  '/posts/:title',
  '/posts/:year/:title',
  '*',
  '/*/frost',
  '/a.b',
  '/straße',
  '/:any',
])('%s means what the URL Pattern Standard says', (pattern) => {
  if (pattern === '*') return expect(pathPatternProblem(pattern)).not.toBeNull()
  for (const path of paths) expect([path, matchesPath(pattern, path)]).toEqual([path, byTheStandard(pattern, path)])
})

test('property: patterns that can be used mean what the standard says', () => {
  // Addresses lose `.` and `..` before anybody sees their path.
  const part = fc.stringMatching(/^[a-z0-9._~-]{1,4}$/).filter((text) => !/^\.+$/.test(text))
  const patterned = fc.oneof(part, fc.constant('*'), fc.constant(':name'))
  const pathOf = (parts: string[]) => `/${parts.join('/')}`
  fc.assert(
    fc.property(fc.array(patterned, { maxLength: 4 }), fc.array(part, { maxLength: 4 }), (pattern, path) => {
      // The same name twice is none in the standard.
      fc.pre(pattern.filter((one) => one === ':name').length < 2)
      expect(matchesPath(pathOf(pattern), pathOf(path))).toBe(byTheStandard(pathOf(pattern), pathOf(path)))
    }),
  )
})

test.each(['about', '/a b', '/(a|b)', '/a?', '/{a}', '/:', '/#top', 'https://site.example/a'])(
  '%s is refused, and said why',
  (pattern) => expect(pathPatternProblem(pattern)).toMatch(/\.$/),
)

test('all pages, only these, all but these', () => {
  const patterns = ['/posts/*', '/about']
  const shown = (which: 'all' | 'only' | 'but') =>
    ['/', '/about', '/posts/one'].map((path) => isOnPage({ which, patterns }, path))
  expect([shown('all'), shown('only'), shown('but')]).toEqual([
    [true, true, true],
    [false, true, true],
    [true, false, false],
  ])
})
