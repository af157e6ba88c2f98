import type { FormContent } from '#core/form'
import { type Failure, failure } from '#core/proof'

/**
 * Words of a form that a page shows as something else, because it says that it is written in another encoding than it is;
 * null for none. Bytes of UTF-8 read as windows-1252, or bytes of that read as UTF-8 (WHATWG Encoding, sections 4 and 10).
 *
 * @param html as a browser decodes it
 */
export function garbledWords(
  html: string,
  { words, fields }: Pick<FormContent, 'words' | 'fields'>,
  encoding: string,
): Failure | null {
  const said = [words.heading, words.button, ...fields.map(({ label }) => label)]
  for (const text of said) {
    const word = text.split(/\s+/).find((one) => /[^\x20-\x7e]/.test(one))
    if (word === undefined || html.includes(word)) continue
    const shown = [asWindows1252(word), word.replace(/[^\x20-\x7e]/g, '\uFFFD')].find((one) => html.includes(one))
    if (shown !== undefined)
      return failure('wrong-charset', 'page', {
        expected: `Visitors read “${word}”.`,
        happened: `They read “${shown}”.`,
        cause: `The page is read as ${encoding}, and its words were written in another encoding.`,
        mend: 'Let the site say “charset=utf-8” for its pages, and save them so; or use a frame or a script, which bring their own words.',
      })
  }
  return null
}

function asWindows1252(text: string): string {
  return new TextDecoder('windows-1252').decode(new TextEncoder().encode(text))
}
