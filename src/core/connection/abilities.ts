import type { Way } from './connection'
import type { ServiceFile } from './service-file'

/** What can be done by a way of handing over. Whoever decides by it asks here, and not which way it is. */
export interface Abilities {
  /** What is kept for it at the receiver. */
  opensBy: 'key' | 'secret' | null
  /** Whether it can be asked: for its lists and fields, and who is on them. */
  canBeAsked: boolean
  /** Whether columns are matched to fields there. */
  hasFields: boolean
  /** Whether tags go along. */
  takesTags: boolean
  /** Whether the list's owner chooses when somebody goes there, and one who is made up can be sent first. */
  takesPeople: boolean
  /** Whether somebody is taken off there again. */
  takesOff: boolean
  /** Whether it can tell of who left or bounced there. */
  tellsBack: boolean
  /** Whether it is told of all that happens, one event after the other, and nobody is looked up there. */
  isToldOfAll: boolean
}

const byKind: Record<Way['kind'], Abilities> = {
  api: {
    ...{ opensBy: 'key', canBeAsked: true, hasFields: true, takesTags: true, takesPeople: true },
    ...{ takesOff: true, tellsBack: true, isToldOfAll: false },
  },
  'form-post': {
    ...{ opensBy: null, canBeAsked: false, hasFields: true, takesTags: false, takesPeople: true },
    ...{ takesOff: false, tellsBack: true, isToldOfAll: false },
  },
  webhook: {
    ...{ opensBy: 'secret', canBeAsked: false, hasFields: false, takesTags: false, takesPeople: false },
    ...{ takesOff: true, tellsBack: true, isToldOfAll: true },
  },
  file: {
    ...{ opensBy: null, canBeAsked: false, hasFields: false, takesTags: false, takesPeople: false },
    ...{ takesOff: true, tellsBack: false, isToldOfAll: false },
  },
}

export const abilitiesOf = ({ kind }: Pick<Way, 'kind'>): Abilities => byKind[kind]

/** The file that says how a service is asked; null where nothing can be asked. */
export const serviceOf = (way: Way): ServiceFile | null => (way.kind === 'api' ? way.service : null)

/** What a way leads to, in a word or two. */
export function placeOf(way: Way): string {
  switch (way.kind) {
    case 'api':
      return way.service.name
    case 'form-post':
      return new URL(way.action).host
    case 'webhook':
      return new URL(way.address).host
    case 'file':
      return 'a folder of the receiver’s'
  }
}
