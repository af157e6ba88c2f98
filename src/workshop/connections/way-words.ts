import type { Way } from '#core/connection'

/** What an owner has to reach the place by, and what can be seen of whoever goes there. */
export const wayWords: Record<Way['kind'], { name: string; proves: string }> = {
  api: {
    name: 'A key from the service',
    proves: 'Who arrives is looked up there, and taken off again when they leave. Most services give a key.',
  },
  'form-post': {
    name: 'The code of its sign-up form',
    proves: 'People are sent as by that form: handed over, and not seen. Nobody is taken off there.',
  },
  webhook: {
    name: 'An address of mine that listens',
    proves: 'It is told of each event and says that it took it; what becomes of it is seen there.',
  },
  file: {
    name: 'Nothing but files',
    proves: 'A table with everybody, written again and again on the computer where Ask Box runs.',
  },
}
