export { boxAddress, boxName, type MailboxBehaviour, mailboxBehaviourSchema, type MailboxRule } from './mailbox'
