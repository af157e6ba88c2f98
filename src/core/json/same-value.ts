/** Whether two values made of JSON are equal, in whatever order their keys were set. A key that is `undefined` counts as missing. */
export function sameValue(one: unknown, other: unknown): boolean {
  if (one === other) return true
  if (one === null || other === null || typeof one !== 'object' || typeof other !== 'object') return false
  if (Array.isArray(one) || Array.isArray(other)) {
    return (
      Array.isArray(one) &&
      Array.isArray(other) &&
      one.length === other.length &&
      one.every((value, at) => sameValue(value, other[at]))
    )
  }
  const [left, right] = [one as Record<string, unknown>, other as Record<string, unknown>]
  return (
    Object.keys(left).every((key) => sameValue(left[key], right[key])) &&
    Object.keys(right).every((key) => right[key] === undefined || left[key] !== undefined)
  )
}
