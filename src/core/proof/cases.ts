/** What a rehearsal tries, in its order. */
export const rehearsalCases = [
  { id: 'first', name: 'First time', explanation: 'Somebody new signs up.', needsBrowser: false },
  {
    id: 'mail',
    name: 'Through the mail',
    explanation: 'Confirmed by its link, welcomed, given the gift, and left by one press; a link used up or too old.',
    needsBrowser: false,
  },
  {
    id: 'again',
    name: 'The same address again',
    explanation: 'In other letter case and with spaces around it.',
    needsBrowser: false,
  },
  {
    id: 'wrong',
    name: 'Wrong addresses',
    explanation: 'Each is refused, with a message beside its field.',
    needsBrowser: false,
  },
  { id: 'empty', name: 'Required fields empty', explanation: 'Each is asked for again.', needsBrowser: false },
  {
    id: 'names',
    name: 'Unusual names',
    explanation: 'Long, accented, from right to left, and such as look like script or a formula.',
    needsBrowser: false,
  },
  {
    id: 'bot',
    name: 'A bot that fills everything',
    explanation: 'It reads a success and joins no list.',
    needsBrowser: false,
  },
  {
    id: 'double',
    name: 'Double press',
    explanation: 'The button pressed twice makes one member.',
    needsBrowser: false,
  },
  {
    id: 'message',
    name: 'A message, the box left alone',
    explanation: 'Where the form takes messages: it arrives at its owner, and nobody joins.',
    needsBrowser: false,
  },
  {
    id: 'closed',
    name: 'While paused or retired',
    explanation: 'Visitors read that the form is closed, and nobody joins.',
    needsBrowser: false,
  },
  {
    id: 'elsewhere',
    name: 'Other pages of the site',
    explanation: 'Those that its rules mean show it, those that they leave out do not.',
    needsBrowser: true,
  },
  {
    id: 'scripts-off',
    name: 'Scripts off',
    explanation: 'A browser opens the page without scripts, fills the form in and sends it.',
    needsBrowser: true,
  },
  {
    id: 'phone',
    name: 'Phone size',
    explanation: 'A browser opens the page 360 pixels wide, fills the form in and sends it.',
    needsBrowser: true,
  },
  {
    id: 'viewers',
    name: 'Other screens and settings',
    explanation: 'Looked at on a tablet, wide, twice as large, in the dark, in another language, with less motion.',
    needsBrowser: true,
  },
  {
    id: 'slow',
    name: 'Slowly, and back again',
    explanation: 'Somebody takes twenty seconds to fill it in, leaves, and comes back. Nothing is sent.',
    needsBrowser: true,
  },
  {
    id: 'firefox',
    name: 'In Firefox',
    explanation: 'Where it stands beside the receiver (Debian’s firefox-esr), somebody signs up in it.',
    needsBrowser: true,
  },
  {
    id: 'wordings',
    name: 'Each wording of a trial',
    explanation: 'Where other words are tried, somebody is shown each of them, and signs up.',
    needsBrowser: true,
  },
] as const

/** The step at which a wording of a trial is shown. */
export const wordingStep = (name: string) => `“${name}”, as it is tried`

export type RehearsalCase = (typeof rehearsalCases)[number]['id']
export const caseIds = rehearsalCases.map(({ id }) => id) as [RehearsalCase, ...RehearsalCase[]]

export function caseName(id: RehearsalCase | 'page'): string {
  return rehearsalCases.find((one) => one.id === id)?.name ?? 'The page as it stands'
}
