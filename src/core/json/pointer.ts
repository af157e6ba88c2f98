/** A name as one step of a JSON Pointer (RFC 6901, section 3). */
export const pointerStep = (name: string | number): string =>
  `/${String(name).replaceAll('~', '~0').replaceAll('/', '~1')}`
