import normalizeEmail from 'validator/lib/normalizeEmail'
import { inboxOf } from '.'

describe('spellings of one inbox', () => {
  test.each([
    ['wren+stars@post.example', 'wren@post.example'],
    ['wren+a+b@post.example', 'wren@post.example'],
    ['w.r.e.n@post.example', 'w.r.e.n@post.example'],
    ['+only@post.example', '+only@post.example'],
  ])('%s leads to %s (RFC 5233)', (address, inbox) => expect(inboxOf(address)).toBe(inbox))

  test.each([
    'w.r.e.n+x@gmail.com',
    'wren@googlemail.com',
    'wren+x@outlook.com',
    'wren+x@icloud.com',
    'wren-x@yahoo.com',
    'wren.b@hotmail.com',
  ])('%s as validator’s normalizeEmail has it', (address) => {
    expect(inboxOf(address)).toBe(normalizeEmail(address))
  })
})
