import { guessedKind } from '.'

const links = (...hrefs: string[]) => hrefs.map((href) => `<a class="m" href="${href}">x</a>`).join('\n')

test.each([
  // Really Simple Discovery 1.0 and Pingback 1.0, as their documents show them.
  ['rsd', '<link rel="EditURI" type="application/rsd+xml" title="RSD" href="/rsd.xml" />', 'self-hosted-blog'],
  ['pingback', "<link href='/ping' rel='pingback'>", 'self-hosted-blog'],
  ['files', links('/a.html', 'b.htm?x=1', './c/d.html#e', '/', 'https://elsewhere.example/'), 'static-pages'],
  ['two files are too few', links('/a.html', '/b.html'), null],
  ['files among other pages', links('/a.html', '/b.html', '/c.html', '/d', '/e'), null],
  ['files elsewhere', links(...['a', 'b', 'c'].map((name) => `https://elsewhere.example/${name}.html`)), null],
  ['a word about pingbacks', '<p>rel="pingback"</p>', null],
  ['nothing', '', null],
  ['no end of a tag', '<link rel="pingback" '.repeat(20_000), null],
])('what a page tells of its builder: %s', (_, html, kind) => {
  expect(guessedKind(html, 'https://site.example/')).toBe(kind)
})
