export { meantAddress } from './meant'
export { parseEmail, readEmail, type EmailAddress, type EmailProblem } from './address'
export { inboxOf, isMailProvider } from './inbox'
