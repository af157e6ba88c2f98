import { plainLook } from '#core/look'
import type { FormContent } from './content'
import { emailField } from './field'

/** What a new form says before its owner rewrites it: whole sentences that could go live, named after its list. */
export function startContent(listName: string): FormContent {
  return {
    language: 'en',
    words: {
      heading: listName,
      introduction: 'Leave your address and we will write when there is something worth telling.',
      button: 'Sign up',
      small: 'No spam. Every message says how to leave.',
    },
    fields: [emailField()],
    look: plainLook,
    answers: {
      joined: {
        show: 'message',
        heading: 'You are on the list',
        message: 'Thank you. You will hear from us.',
        address: '',
      },
      'already-on-list': {
        show: 'message',
        heading: 'You are already on the list',
        message: 'This address is on the list, so there is nothing left to do.',
        address: '',
      },
    },
  }
}
