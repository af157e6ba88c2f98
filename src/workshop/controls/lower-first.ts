/** As words go on within a sentence: a name, or an abbreviation, further on stays as it is. */
export function lowerFirst(words: string): string {
  const [first = '', second = ''] = words
  return second === second.toUpperCase() && second !== second.toLowerCase()
    ? words
    : `${first.toLowerCase()}${words.slice(1)}`
}
