/** Parts of mailauth that come without types; only what the tests ask. */
declare module 'mailauth/lib/dmarc/get-dmarc-record.js' {
  /** The record’s tags by name, or false for none. */
  export default function getDmarcRecord(
    domain: string,
    resolver: (name: string, type: string) => Promise<string[][]>,
  ): Promise<Record<string, unknown> | false>
}
declare module 'mailauth/lib/tools.js' {
  export function getPublicKey(
    type: 'DKIM',
    name: string,
    minBitLength: number,
    resolver: (name: string, type: string) => Promise<string[][]>,
  ): Promise<{ publicKey: string }>
}
