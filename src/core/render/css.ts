/**
 * CSS written as CSS, one declaration a line, and given to visitors without comments and without the line breaks and
 * spaces that say nothing. For whole rules, or for the declarations of one. What is inserted stays as it is; `false` and
 * an empty text insert nothing, so that a declaration can depend on something: `${isWide && 'width:100%'};`. Strings end
 * up in double quotes.
 */
export function css(template: TemplateStringsArray, ...values: (string | number | false)[]): string {
  let parts = compacted.get(template)
  if (parts === undefined) {
    parts = compact(template.raw.join(PLACE)).split(PLACE)
    compacted.set(template, parts)
  }
  let [text = ''] = parts
  for (const [at, value] of values.entries()) {
    const rest = parts[at + 1]!
    if (value !== false && value !== '') text += value + rest
    // The semicolon of a declaration that is not there is not either.
    else if (/(?:^|[;{])$/.test(text) && rest.startsWith(';')) text += rest.slice(1)
    else text = (rest === '' || rest.startsWith('}') ? text.replace(/;$/, '') : text) + rest
  }
  return text
}

/** Each template is compacted once. */
const compacted = new WeakMap<TemplateStringsArray, string[]>()
/** Placeholder for an interpolated value. */
const PLACE = '\u0001'

function compact(css: string): string {
  return css
    .replace(/\/\*[^*]*\*\//g, '')
    .replace(/\u0001\s*\n\s*/g, PLACE)
    .replace(/\s+/g, ' ')
    .replace(/ ?([{};,>]) ?/g, '$1')
    .replaceAll(': ', ':')
    .replaceAll(' / ', '/')
    .replaceAll("'", '"')
    .replace(/="([a-z-]+)"\]/g, '=$1]')
    .replaceAll(' !important', '!important')
    .replace(/ \+ (?=[.:[])/g, '+')
    .replace(/@(media|supports) (?=\()/g, '@$1')
    .replace(/(^|[^\d.])0(?=\.\d)/g, '$1')
    .replace(/;(?=\})|;$/g, '')
    .trim()
}
