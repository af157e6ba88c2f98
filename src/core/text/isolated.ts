/** Explicit directional formatting characters that reach beyond themselves: UAX #9, sections 2.1 to 2.5. */
const REACHING = /[\u202a-\u202e\u2066-\u2069]/
const [FIRST_STRONG_ISOLATE, POP_ISOLATE] = ['\u2068', '\u2069']
/** UAX #9, section 3.3.1: each ends with all that is open in it. */
const PARAGRAPH_ENDS = /(\r\n|[\n\r\u001c-\u001e\u0085\u2029])/

/**
 * A text of somebody else’s that leaves the order of whatever stands beside it alone (UAX #9, section 5.2): in a first strong
 * isolate, with each isolate that it opens closed, and without a mark that would close ours. Texts without such characters
 * come back as they are.
 */
export function isolated(text: string): string {
  if (!REACHING.test(text)) return text
  return text
    .split(PARAGRAPH_ENDS)
    .map((part) => (REACHING.test(part) ? isolatedLine(part) : part))
    .join('')
}

function isolatedLine(line: string): string {
  let open = 0
  const kept = line.replaceAll(/[\u2066-\u2069]/g, (sign) => {
    if (sign !== POP_ISOLATE) open += 1
    else if (open === 0) return ''
    else open -= 1
    return sign
  })
  return `${FIRST_STRONG_ISOLATE}${kept}${POP_ISOLATE.repeat(open)}${POP_ISOLATE}`
}
