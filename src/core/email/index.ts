export { meantAddress } from './meant'
export { readTyped, tidyAddress } from './typed'
export { parseEmail, readEmail, type EmailAddress, type EmailProblem } from './address'
export { inboxOf, isMailProvider } from './inbox'
