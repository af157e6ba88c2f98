import { causeOf, isWrongReason, type MailReply } from '.'

describe('whose fault a refusal is (RFC 5321, section 4.2; RFC 3463; RFC 7505)', () => {
  test.each([
    ['person', 'recipient', '550 5.1.1 <wren@mail.example>: Recipient address rejected'],
    ['person', 'recipient', '550-5.1.1 The email account does not exist'],
    ['person', 'recipient', '550 5.1.10 RESOLVER.ADR.RecipientNotFound'],
    ['person', 'recipient', '556 5.1.10 Recipient address has null MX'],
    ['person', 'recipient', '550 5.2.1 The account is disabled'],
    ['person', 'recipient', '553 5.1.3 The recipient address is not valid'],
    ['person', 'recipient', '550 No such user here'],
    ['unclear', 'recipient', '550 rejected'],
    ['sender', 'recipient', '550 Your network is on our block list'],
    ['passing', 'recipient', '550 Mailbox over quota'],
    ['unclear', 'recipient', '550 5.0.0 rejected'],
    ['sender', 'recipient', '550 5.7.1 Service unavailable; client host blocked'],
    ['sender', 'recipient', '554 5.7.1 Relay access denied'],
    ['sender', 'recipient', '550 5.1.8 Sender address has bad domain'],
    ['sender', 'recipient', '550 5.4.1 Access denied'],
    ['passing', 'recipient', '552 5.2.2 Over quota'],
    ['passing', 'recipient', '552 Mailbox full'],
    ['passing', 'recipient', '450 4.2.0 Greylisted'],
    ['mail', 'recipient', '552 5.2.3 Message too large for mailbox'],
    ['mail', 'content', '554 5.7.1 Message looks like spam'],
    ['mail', 'content', '550 5.1.1 said too late'],
    ['passing', 'content', '451 4.7.1 Try again later'],
    ['sender', 'other', '535 5.7.8 Authentication failed'],
    ['sender', 'other', '550 5.1.1 to the sender'],
  ] as [string, MailReply['stage'], string][])('%s: to the %s, %s', (cause, stage, text) => {
    expect(causeOf({ code: Number(text.slice(0, 3)), stage, text })).toBe(cause)
  })

  test('no answer at all passes', () => {
    expect(causeOf({ code: null, stage: 'other', text: '' })).toBe('passing')
  })

  test.each([
    ['550 5.7.1 blocked', true],
    ['552 5.2.2 Over quota', true],
    ['5.7.1', true],
    ['550 5.1.1 no such user', false],
    ['5.1.1', false],
    ['550 no such user', false],
    ['no such user', false],
  ])('a kept reason “%s”: marked wrongly is %s', (reason, isWrong) => {
    expect(isWrongReason(reason)).toBe(isWrong)
  })
})
