export { alikeKey, takeMessage } from './intake'
export { type Messages, openMessages } from './messages'
