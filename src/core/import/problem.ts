/** Why a file cannot be read any further. */
export interface FileProblem {
  code: 'no-text' | 'empty' | 'too-many-columns' | 'no-end-of-row' | 'no-address'
  /** In words for the owner. */
  message: string
}
