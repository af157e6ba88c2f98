/** Some programs take no longer addresses than this (common practice, no published source). */
const LONGEST = 1_900

/**
 * The address that opens the owner's own mail program to answer a message: RFC 6068. What somebody typed cannot add
 * recipients or headers: all of it is encoded, and a text that is too long is cut.
 */
export function answerLink({ to, subject, text }: { to: string; subject: string; text: string }): string {
  const at = to.lastIndexOf('@')
  const address = `${encodeURIComponent(to.slice(0, at))}@${encodeURIComponent(to.slice(at + 1))}`
  const begun = `mailto:${address}?subject=${encodeURIComponent(whole(subject))}&body=`
  const quoted = whole(text)
    .split('\n')
    .map((line) => `> ${line}`)
    .join('\r\n')
  return begun + encodedWithin(`\r\n\r\n${quoted}`, LONGEST - begun.length)
}

/** Half of a character cannot be encoded. */
const whole = (text: string) => text.replace(/\p{Cs}/gu, '\ufffd')

/** As many whole characters as there is room for. */
function encodedWithin(text: string, most: number): string {
  let encoded = ''
  for (const character of text) {
    const next = encodeURIComponent(character)
    if (encoded.length + next.length > most) break
    encoded += next
  }
  return encoded
}
