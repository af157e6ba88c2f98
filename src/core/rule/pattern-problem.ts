/** Why a pattern cannot be used, in words for its owner; null when it can. */
export function pathPatternProblem(pattern: string): string | null {
  if (!pattern.startsWith('/')) return 'It begins with a slash, such as /posts/*.'
  if (/[(){}?+\\\s#]/.test(pattern)) return 'A path has letters, digits, slashes and hyphens; * stands for anything.'
  if (/:(?![a-z_])/i.test(pattern)) return 'A name follows a colon, such as /posts/:title.'
  return null
}
