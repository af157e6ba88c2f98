import type { AnswerCase } from '#core/form'
import type { Press } from '#core/render'
import { type Language, answerTextsOf } from '#core/texts'

export const answerNames: Record<AnswerCase, string> = {
  joined: 'Someone joined',
  'confirm-first': 'Look in your inbox',
  'already-on-list': 'Already on the list',
  'already-waiting': 'Already waiting',
  confirmed: 'Confirmed',
  'link-expired': 'Link used or too old',
  left: 'Someone left',
  'message-sent': 'Message sent',
  'not-possible': 'Not possible',
}

/** In a few words: who reads it. */
export const answerWho: Record<AnswerCase, string> = {
  joined: 'New, and on the list at once',
  'confirm-first': 'New, and has to confirm',
  'already-waiting': 'Came before, still to confirm',
  confirmed: 'After the press in the mail',
  'already-on-list': 'On the list already',
  'not-possible': 'Too many at once, or a fault',
  'link-expired': 'With an old link from a mail',
  left: 'After leaving by a mail’s link',
  'message-sent': 'Wrote to you, and joined nothing',
}

export const answerWhen: Record<AnswerCase, string> = {
  joined: 'Right after the button, for somebody new who is on the list at once.',
  'confirm-first':
    'Right after the button, for somebody new who has to confirm by mail. “Send it again” stands below it.',
  'already-on-list': 'Right after the button, for somebody who is on the list.',
  'already-waiting':
    'Right after the button, for somebody who signed up before and has yet to confirm. The mail is sent again.',
  confirmed: 'After the press in the confirmation mail.',
  'link-expired': 'When a link from a mail was used up, or is older than the list’s days.',
  left: 'After leaving. One press brings them back.',
  'message-sent': 'Right after the button, for somebody who wrote a message and did not tick the box.',
  'not-possible': 'When a sign-up cannot be taken: too many from one place, or the receiver cannot store it.',
}

/** The button that stands on an answer's page besides its words. Here it leads nowhere. */
export function pressOn(one: AnswerCase, language: Language): Press | null {
  const { sendAgain, comeBack } = answerTextsOf(language)
  const words = { 'confirm-first': sendAgain, 'already-waiting': sendAgain, left: comeBack }[one as string]
  return words === undefined ? null : { action: '#', words, isMain: false }
}
