export { type Messages, openMessages } from './messages'
