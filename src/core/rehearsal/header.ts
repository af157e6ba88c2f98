import type { As } from './ports'

/** The header by which the receiver's own requests of a rehearsal are known: its code, and how the spot is to be held. */
export const REHEARSAL_HEADER = 'Askbox-Rehearsal'

export function rehearsalHeader(code: string, as?: As, wording?: number): string {
  return [
    code,
    ...(as === undefined ? [] : [`as=${as}`]),
    ...(wording === undefined ? [] : [`wording=${wording}`]),
  ].join('; ')
}

/** What such a header says; null for none of ours. */
export function readRehearsalHeader(header: string): { code: string; as: As | null; wording: number | null } | null {
  const [, code, as, wording] =
    /^([a-z0-9]{1,40})(?:; as=(paused|retired))?(?:; wording=(\d{1,9}))?$/.exec(header) ?? []
  return code === undefined
    ? null
    : { code, as: (as as As | undefined) ?? null, wording: wording === undefined ? null : Number(wording) }
}
