import type { english } from './english'

/** A text of the form itself, by its name. */
export type TextKey = keyof (typeof english)['form']
/**
 * The form's own texts, those it needs besides what its owner writes. Every one can be rewritten for a form.
 * `{label}`, `{least}`, `{most}`, `{left}`, `{place}`, `{address}`, `{step}` and `{steps}` stand for what belongs there.
 */
export type InterfaceTexts = Record<TextKey, string>

interface Said {
  heading: string
  message: string
}

/** What visitors read where mail has a part in it, until the owner says it otherwise, and the words on our pages' buttons. */
export interface AnswerTexts {
  joined: Said
  alreadyOnList: Said
  confirmFirst: Said
  alreadyWaiting: Said
  /** A message went to the owner, and nothing was joined. */
  messageSent: Said
  /** Stands after what who joined reads, where a message went with it. */
  messageToo: string
  confirmed: Said
  linkExpired: Said
  left: Said
  notPossible: Said
  /** The page that the confirmation mail leads to. `{list}` is the list. */
  confirmPage: Said
  confirm: string
  /** The page that a leaving link leads to. `{list}` is the list. */
  leavePage: Said
  /** Before leaving by a copy on the web, which may have been passed on; `{address}` is masked. */
  leaveCopy: string
  leave: string
  returned: Said
  comeBack: string
  sendAgain: string
  sentAgain: string
  /** Where the mail was held back, because the inbox or the network had more than its share. */
  mailHeld: string
  sendNow: string
  mailHeldToday: string
  /** A gift's link that has ended, by its days or its downloads, or because the first so many have it. */
  giftOver: Said
  /** On the button of a gift whose link works so many times. */
  takeGift: string
  /** On a link to the owner's own page that answers. `{place}` is its address, shortened. */
  goOn: string
}

/** What a new form says to visitors until its owner rewrites it: whole sentences that could go live. */
export interface StartTexts {
  heading: string
  introduction: string
  example: string
  button: string
  small: string
  /** Of a form that takes messages. */
  writeHeading: string
  writeIntroduction: string
  send: string
}

/** All that is said in one language. */
export interface Texts {
  /** In English. */
  name: string
  direction: 'ltr' | 'rtl'
  form: InterfaceTexts
  answers: AnswerTexts
  start: StartTexts
}
