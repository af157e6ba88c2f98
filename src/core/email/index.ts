export { meantAddress } from './meant'
export { parseEmail, type EmailAddress, type EmailProblem } from './address'
export { inboxOf, isMailProvider } from './inbox'
