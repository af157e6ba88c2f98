/**
 * The form's own texts, those it needs besides what its owner writes. Every one can be rewritten for a form.
 * `{label}`, `{least}`, `{most}`, `{place}`, `{step}` and `{steps}` stand for what belongs there.
 */
export const english = {
  optional: '(optional)',
  choose: 'Choose',
  next: 'Next',
  back: 'Back',
  step: 'Step {step} of {steps}',
  sending: 'Sending …',
  notSent: 'That did not get through. Please try again.',
  leaveEmpty: 'Leave this empty',
  backTo: 'Back to {place}',
  checkAgain: 'One thing needs another look',
  checkAgainSeveral: 'Some things need another look',

  missing: 'Please fill in “{label}”.',
  missingChoice: 'Please choose an answer for “{label}”.',
  missingConsent: 'Please tick this box to go on.',
  missingEmail: 'Please fill in your email address.',
  invalidEmail: 'This is not a complete email address. It looks like name@example.org.',
  longEmail: 'This email address is longer than mail allows.',
  tooLong: '“{label}” takes at most {most} characters.',
  invalidPhone: 'Please write a telephone number with digits, such as +1 555 0100.',
  invalidWebsite: 'Please write a web address, such as https://example.org.',
  invalidDate: 'Please give a date that exists.',
  invalidNumber: 'Please write a number.',
  tooSmall: 'This must be at least {least}.',
  tooLarge: 'This must be at most {most}.',
  unknownChoice: 'Please choose one of the answers offered.',

  email: 'Email',
  firstName: 'First name',
  lastName: 'Last name',
  fullName: 'Name',
  phone: 'Telephone',
  website: 'Website',
  address: 'Postal address',
  street: 'Street and number',
  postalCode: 'Postal code',
  city: 'Town or city',
  country: 'Country',
  birthday: 'Birthday',
  day: 'Day',
  month: 'Month',
  year: 'Year',
  date: 'Date',
  number: 'Number',
  line: 'Your answer',
  text: 'Your message',
  chooseOne: 'Which one?',
  chooseSeveral: 'Which ones?',
  topics: 'What would you like to hear about?',
  consent: 'Yes, write to me. I can leave at any time.',
}

export type TextKey = keyof typeof english
export type InterfaceTexts = Record<TextKey, string>
