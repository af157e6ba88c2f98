/**
 * The few globals core may use: WHATWG standards that browsers, workers and Node all provide.
 * Core is compiled without the DOM's and Node's types, so anything else is a type error.
 */
declare class URL {
  constructor(url: string, base?: string)
  static canParse(url: string, base?: string): boolean
  readonly hostname: string
  readonly host: string
  readonly port: string
  readonly origin: string
  readonly protocol: string
  readonly pathname: string
  readonly search: string
  readonly username: string
  readonly password: string
  readonly href: string
  readonly searchParams: { get(name: string): string | null; set(name: string, value: string): void }
}

declare class TextEncoder {
  encode(text: string): Uint8Array
}

declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean; ignoreBOM?: boolean })
  readonly encoding: string
  decode(bytes: Uint8Array, options?: { stream?: boolean }): string
}

/** The package has no types for its parts. */
declare module '@bramus/specificity/core' {
  export { calculateForAST } from '@bramus/specificity'
}
