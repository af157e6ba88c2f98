import { hasSender } from '#core/mail'
import { evidence, type Failure, failure, MADE_UP_MESSAGE, type ReceivedMail, REHEARSED_OWNER } from '#core/proof'
import { type CaseStep, failed, notTried, passed } from './step'
import { addressOf, type CaseContext } from './way'

const LONGEST_WAIT_MS = 20_000
const LOOK_EVERY_MS = 150

/** The mail that takes what somebody wrote to the owner: an answer to it goes to whoever wrote. */
export async function messageMail(way: CaseContext, email: string): Promise<CaseStep> {
  const what = 'The message, in the owner’s inbox'
  if (!hasSender(way.subject.mail))
    return notTried('mail', what, 'The list has no sender yet: messages are kept here, and none goes to an inbox.')
  const owner = addressOf(way, REHEARSED_OWNER)
  const begun = way.ports.now()
  const isTheirs = ({ headers }: ReceivedMail) => (headers['reply-to'] ?? '').toLowerCase().includes(email)
  for (;;) {
    const { received, queued } = await way.ports.mails(owner)
    const mail = received.find(isTheirs)
    if (mail !== undefined) {
      const problem = judgeMessage(mail, email)
      return problem === null
        ? passed('mail', what, `“${mail.subject}”. An answer goes to whoever wrote.`)
        : failed('mail', what, problem)
    }
    const refused = queued.find(({ state }) => state === 'refused')
    if (refused !== undefined || way.ports.now() - begun > LONGEST_WAIT_MS)
      return failed(
        'mail',
        what,
        failure(
          'message-missing',
          'mail',
          {
            expected: `What was written arrives within ${LONGEST_WAIT_MS / 1_000} seconds.`,
            happened: refused === undefined ? 'It did not come.' : `The mail server refused it: ${refused.said}`,
            cause: 'The mail server does not take mail from this receiver, or sending is stopped.',
            mend: 'Look at the server set up in the Mail room. The message itself is kept under the form.',
          },
          evidence('response', JSON.stringify(queued, null, 1)),
        ),
      )
    await way.ports.pause(LOOK_EVERY_MS)
  }
}

function judgeMessage({ text, subject, source }: ReceivedMail, email: string): Failure | null {
  // Programs make links of addresses, so those that were typed are broken up.
  const plain = text.replaceAll(/[\r\u200a]/g, '')
  const isWhole = MADE_UP_MESSAGE.split('\n').every((line) => plain.includes(line))
  if (isWhole && plain.includes(email) && !subject.includes('@')) return null
  return failure(
    'message-differs',
    'mail',
    {
      expected: 'The mail says what was written and by whom, and nothing of it stands in the subject.',
      happened: isWhole ? `The subject is “${subject}”.` : 'What was written is not in it.',
      cause: 'Something between the receiver and the inbox changes mails.',
      mend: 'Look at the mail server’s rules for outgoing mail.',
    },
    evidence('response', source),
  )
}
