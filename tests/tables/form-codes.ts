/** Forms as services hand them out, each made differently. All are invented. */
export interface FormCode {
  name: string
  code: string
  /** Of the page that it is from. */
  page?: string
  action: string
  method?: 'post' | 'get'
  /** What is asked, as name, kind, and a star where it is required. */
  asks: string[]
  fixed?: string[]
  trap?: string
  dropped?: string[]
  unclear?: string[]
}

const to = 'https://letters.example/subscribe'

export const formCodes: FormCode[] = [
  {
    name: 'plain, with labels',
    code: `<h3>Hear from the hill</h3><form action="${to}" method="post"><label for="m">Email address *</label>
      <input type="email" id="m" name="EMAIL" required><label>First name <input name="FNAME"></label>
      <input type="hidden" name="list" value="l1"><button>Join us</button></form>`,
    action: to,
    asks: ['EMAIL email*', 'FNAME first-name'],
    fixed: ['list=l1'],
  },
  {
    name: 'laid out by a table, labels in cells',
    code: `<table><form action="${to}" method="post"><tr><td>Your email:</td><td><input name="e1" type="text"></td></tr>
      <tr><td>Town:</td><td><input name="f_town"></td></tr><tr><td></td><td><input type="submit" value="Sign up"></td></tr></form></table>`,
    action: to,
    asks: ['e1 email*', 'f_town line'],
  },
  {
    name: 'inputs without labels, placeholders alone',
    code: `<form action="${to}" method="POST"><input placeholder="Email" name="mail"><input placeholder="Surname" name="x2"><input type=submit></form>`,
    action: to,
    asks: ['mail email*', 'x2 last-name'],
  },
  {
    name: 'several submit buttons',
    code: `<form action="${to}" method="post"><input type="email" name="email"><button name="do" value="join">Join</button>
      <button name="do" value="leave">Leave the list</button></form>`,
    action: to,
    asks: ['email email*'],
    dropped: ['a second button, “Leave the list”'],
  },
  {
    name: 'groups of radio buttons and boxes',
    code: `<form action="${to}" method="post"><input type="email" name="email" required>
      <fieldset><legend>How often?</legend><label><input type="radio" name="often" value="w" required> Weekly</label>
      <label><input type="radio" name="often" value="m"> Monthly</label></fieldset>
      <fieldset><legend>About</legend><input type="checkbox" name="group[7][1]" id="g1" value="1"><label for="g1">Comets</label>
      <input type="checkbox" name="group[7][2]" id="g2" value="2"><label for="g2">The Moon</label></fieldset>
      <select name="country"><option value="">Choose one</option><option value="se">Sweden</option><option value="no" selected>Norway</option></select>
      <button>Go</button></form>`,
    action: to,
    asks: ['email email*', 'often choose-one*', 'group[7][1] choose-several', 'country choose-one'],
  },
  {
    name: 'in two steps, shown one after the other',
    code: `<form action="${to}" method="post"><div data-step="1"><input type="email" name="email" aria-label="Email"><button type="button">Next</button></div>
      <div data-step="2" style="display:none"><select name="lang"><option>English</option><option>Svenska</option></select><button type="submit">Done</button></div></form>`,
    action: to,
    asks: ['email email*', 'lang choose-one'],
  },
  {
    name: 'scripts, styles, tracking and a credit line mixed in',
    code: `<link rel="stylesheet" href="https://letters.example/f.css"><style>.x{color:red}</style><form action="${to}" method="post" onsubmit="return check()">
      <input type="email" name="email" onfocus="track()"><div style="position: absolute; left: -5000px" aria-hidden="true"><input name="b_9" tabindex="-1"></div>
      <input type="submit" value="OK"><p>Powered by <a href="https://letters.example/">Invented Letters</a></p></form>
      <img src="https://letters.example/p.gif" width="1" height="1"><script src="https://letters.example/f.js"></script><script>var a = 1</script>`,
    action: to,
    asks: ['email email*'],
    trap: 'b_9',
    dropped: [
      '2 scripts, of letters.example',
      '2 style sheets',
      '1 tracking picture',
      'the line “Invented Letters”',
      '2 pieces of script in attributes',
    ],
  },
  {
    name: 'broken nesting, tags never closed',
    code: `<div><form action=${to} method=post><p>Email<b><input name=email type=email></p><p>Name<input name=name></b><div><button>Send</div></form></div></div>`,
    action: to,
    asks: ['email email*', 'name full-name'],
  },
  {
    name: 'entities in the address, in names and values',
    code: `<form action="https://letters.example/s?u=1&amp;id=2&amp;f=%20a" method="post"><input type="email" name="EMAIL">
      <input type="hidden" name="note" value="a &quot;b&quot; &amp; &lt;c&gt; &auml;"><input type="submit" value="S&ouml;k"></form>`,
    action: 'https://letters.example/s?u=1&id=2&f=%20a',
    asks: ['EMAIL email*'],
    fixed: ['note=a "b" & <c> ä'],
  },
  {
    name: 'an address that is only part of one',
    code: `<base href="/forms/"><form action="take?a=1" method="post"><input type="email" name="email"><button>Go</button></form>`,
    page: 'https://letters.example/pages/about',
    action: 'https://letters.example/forms/take?a=1',
    asks: ['email email*'],
  },
  {
    name: 'sent by GET',
    code: `<form action="${to}"><input name="email_address"><input name="source" type="hidden" value="web"><input type="submit" value="Go"></form>`,
    action: to,
    method: 'get',
    asks: ['email_address email*'],
    fixed: ['source=web'],
  },
  {
    name: 'beside a search form, with consent and a long text',
    code: `<form action="/search"><input name="q"></form><form method="post" action="${to}"><label>E-mail<input name="contact"></label>
      <textarea name="why" placeholder="Why?"></textarea><label><input type="checkbox" name="gdpr" value="yes" required> I agree to get letters</label><input type="image" alt="Send" src="b.png"></form>`,
    action: to,
    asks: ['contact email*', 'why text', 'gdpr consent*'],
    dropped: ['another form, to /search'],
  },
  {
    name: 'fields that nothing says anything about',
    code: `<form method="post" action="${to}"><input type="email" name="email"><input name="cf_81"><input type="tel" name="t"><button>Go</button></form>`,
    action: to,
    asks: ['email email*', 'cf_81 line', 't phone'],
    unclear: ['cf_81'],
  },
]

/** What is no form that can be taken over, and why. */
export const noForms: [string, string | null, string][] = [
  ['<p>Hello</p>', null, 'no-form'],
  ['<form action="https://x.example/"><input name="q"></form>', null, 'no-email'],
  ['<form><input type="email" name="email"></form>', null, 'no-action'],
  ['<form action="take"><input type="email" name="email"></form>', null, 'relative'],
  ['<form action="javascript:go()"><input type="email" name="email"></form>', null, 'dialog'],
  ['<form action="http://x.example/"><input type="email" name="email"></form>', null, 'not-secure'],
  ['<form method="dialog"><input type="email" name="email"></form>', null, 'dialog'],
  [
    '<form action="https://x.example/"><input type="email" name="email"><input type="file" name="f"></form>',
    null,
    'files',
  ],
]
