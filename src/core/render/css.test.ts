import { css } from './css'

test.each([
  [
    'rules of any depth, without what says nothing',
    css`
      /* A comment. */
      .a > .b,
      .c + .d {
        margin: 0 auto 0.5em;
        content: '';
      }
      @media (min-width: 62rem) {
        [role='alert'] {
          grid-row: 1 / -1;
          color: red !important;
        }
      }
    `,
    '.a>.b,.c+.d{margin:0 auto .5em;content:""}@media(min-width:62rem){[role=alert]{grid-row:1/-1;color:red!important}}',
  ],
  [
    'sums keep their spaces, and numbers before a point their zeros',
    css`
      width: calc(1em + 0.98em);
      inset: 10.5px;
    `,
    'width:calc(1em + .98em);inset:10.5px',
  ],
  [
    'what is inserted stays as it is',
    css`
      font-family: ${'"A  b" , c'};
      width: ${0.5}em;
      margin: ${0} auto;
    `,
    'font-family:"A  b" , c;width:0.5em;margin:0 auto',
  ],
  [
    'a declaration that is not there leaves nothing, wherever it stood',
    css`
      ${false};
      color: red;
      ${''};
      .x {
        top: 0;
        ${false};
      }
      ${false};
    `,
    'color:red;.x{top:0}',
  ],
])('%s', (_, written, given) => expect(written).toBe(given))

test('a template whose values change is compacted once and filled in anew', () => {
  const of = (colour: string | false) => css`
    ${colour && `color:${colour}`};
    top: 0;
  `
  expect([of('red'), of(false), of('blue')]).toEqual(['color:red;top:0', 'top:0', 'color:blue;top:0'])
})
