import type { Version } from '#core/form'
import type { PlacedForm } from '#core/render'
import type { CodeKind, Spot } from '#core/spot'
import type { Mangling } from './manglings'

/** A page as it was fetched, pasted or dropped. */
export interface PageToCheck {
  html: string
  /** Where it was fetched, after redirects; null for one that was not. */
  address: string | null
  /** Of its `Content-Security-Policy` headers. */
  policies: readonly string[]
}

/** What should stand there. */
export interface ExpectedCode {
  spot: Spot
  code: CodeKind
  /** Where visitors reach the receiver, without a slash at the end. */
  receiver: string
  /** Path of the spot’s site, with a slash at the end; all of the host where it is not said. */
  under?: string
  /** All versions of the spot's form, oldest first. */
  versions: readonly Version[]
  /** The owner's other spots, by id. */
  others: ReadonlyMap<string, string>
  /** Makes the plain code with styles in its tags. Given by the caller, because it weighs. */
  inTags?: (placed: PlacedForm) => string
}

export type InstallFindingCode =
  | 'absent'
  | 'other-spot'
  /** The code names a spot that does not exist. */
  | 'unknown-spot'
  | 'other-code'
  | 'other-receiver'
  | Mangling
  | 'changed'
  | 'in-comment'
  | 'in-template'
  | 'in-noscript'
  | 'form-lost'
  | 'hidden'
  | 'styles-unseen'
  | 'trap-visible'
  | 'no-button'
  | 'button-disabled'
  | 'submit-stopped'
  | 'sent-elsewhere'
  | 'within-link'
  | 'field-locked'
  | 'field-missing'
  | 'foreign-required'
  | 'answer-unseen'
  | 'sandboxed'
  | 'link-empty'
  /** Met by a browser. */
  | 'unusable'
  | 'by-script'
  | 'inside-form'
  | 'twice'
  | 'older'
  | 'line-missing'
  | 'line-unseen'
  | 'line-inert'
  | 'line-twice'
  | 'http-action'
  | 'policy'
  | 'rule-unpublished'
  | 'rule-elsewhere'
  | 'no-place'

export interface InstallFinding {
  code: InstallFindingCode
  /** A hint does no harm now. */
  weight: 'damage' | 'hint'
  message: string
  mend: string
  /** The spot whose code is to be pasted, where it is not plain which. */
  spot?: string
  /** Lines of the page's source concerned, from 1, both included; null for what is not there. */
  lines: [from: number, to: number] | null
}

export interface InstallReport {
  /** `unclear` where only a browser can tell whether it works. */
  state: 'whole' | 'edited' | 'damaged' | 'absent' | 'unclear'
  /** The version whose code stands there; null where code has none or none was found. */
  version: number | null
  /** What was changed by hand and does no harm. */
  edits: string[]
  findings: InstallFinding[]
}

/** What became of the code by itself. */
export type Became = Pick<InstallReport, 'state' | 'version' | 'edits' | 'findings'>
