export { parseEmail, type EmailAddress, type EmailProblem } from './address'
