/** What a key may do: `owner` everything; `editor` makes and publishes; `reader` looks on. */
export const rights = ['owner', 'editor', 'reader'] as const
export type Right = (typeof rights)[number]

/** What a key allows. */
export interface Grant {
  right: Right
  /** Whether its holder sees names, addresses and what else people told; owners and editors always do. */
  seesPeople: boolean
}

/** What a route asks of a key: none at all, looking on, looking at people, changing things, or the owner's right. */
export type Needs = 'nothing' | 'see' | 'see-people' | 'edit' | 'own'

/** Code of the problem that tells a browser that its key was withdrawn: it empties itself. */
export const KEY_WITHDRAWN = 'key-withdrawn'

/** How many people an editor may erase in one batch: one who asked for it, never a list. */
export const MOST_ERASED_BY_EDITOR = 1

export function allows({ right, seesPeople }: Grant, needs: Needs): boolean {
  switch (needs) {
    case 'nothing':
    case 'see':
      return true
    case 'see-people':
      return right !== 'reader' || seesPeople
    case 'edit':
      return right !== 'reader'
    case 'own':
      return right === 'owner'
  }
}
