/** A value as engines keep it. Nothing else is ever bound. */
export type Bound = string | number | null

/** Text that would not come back as it was given. */
export class UnstorableText extends TypeError {}

/** @throws TypeError for what would not come back as it was given */
export function boundValue(value: unknown): Bound {
  switch (typeof value) {
    case 'string':
      if (value.includes('\0')) throw new UnstorableText('Text with NUL cannot be stored.')
      if (!(value as unknown as { isWellFormed(): boolean }).isWellFormed())
        throw new UnstorableText('Text with a lone surrogate cannot be stored.')
      return value
    case 'number':
      if (!Number.isFinite(value) || (Number.isInteger(value) && !Number.isSafeInteger(value))) {
        throw new TypeError(`The number ${value} cannot be stored exactly.`)
      }
      return value
    case 'boolean':
      return value ? 1 : 0
    case 'bigint':
      return boundValue(Number(value))
    default:
      if (value === null || value === undefined) return null
      throw new TypeError(`A value of type ${typeof value} cannot be stored.`)
  }
}
