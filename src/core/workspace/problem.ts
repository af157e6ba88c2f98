/** The first thing that keeps a workspace file from being opened. */
export interface WorkspaceProblem {
  code: 'not-json' | 'not-a-workspace' | 'newer-version' | 'damaged' | 'broken-reference' | 'duplicate' | 'journal-gap'
  /** Path to the value concerned, as in `forms[2].draft.words.heading`; empty when it is the file as a whole. */
  path: string
  message: string
}
