import type { Problem, ProblemError } from '../http/problem'

/** Answers to sign-ups that are not taken. */

export const noRehearsal: Problem = {
  status: 403,
  title: 'No such rehearsal',
  detail:
    'This is marked as a test, and the rehearsal that it belongs to has ended, or is of another form or of other people. Nothing was stored.',
}
export const unknownSpot: Problem = {
  status: 404,
  title: 'No such form',
  detail: 'There is no form at this address. The owner of the page may have pasted incomplete code.',
}
/** Paused or retired; what visitors are told is the form's to say. */
export const closedSpot: Omit<Problem, 'detail'> = { status: 410, title: 'This form is closed' }
export const tooLarge: Problem = {
  status: 413,
  title: 'Too much at once',
  detail: 'This is more than a sign-up form can take. Nothing was stored.',
}
const wrongType: Problem = {
  status: 415,
  title: 'Not a form’s answers',
  detail: 'Send application/x-www-form-urlencoded, multipart/form-data or application/json.',
}

export const notStored: Problem = {
  status: 503,
  title: 'Not stored',
  detail: 'The sign-up could not be stored. Nothing was lost but this try: send it again in a moment.',
  headers: { 'Retry-After': '10' },
}
/** The connection closes with the answer; the rest of the body is not read. */
const tooSlow: Problem = {
  status: 408,
  title: 'Too slow',
  detail: 'The answers did not arrive in time. Nothing was stored. Send them again.',
  headers: { Connection: 'close' },
}
export const bodyProblems: Partial<Record<string, Problem>> = {
  'wrong-type': wrongType,
  'too-large': { ...tooLarge, headers: { Connection: 'close' } },
  'too-slow': tooSlow,
  'broken-off': { ...tooSlow, status: 400, title: 'Broken off', detail: 'The answers broke off. Nothing was stored.' },
}

export function tooMany(seconds: number): Problem {
  return {
    status: 429,
    title: 'Too many sign-ups from one place',
    detail: `Too many sign-ups came from this address. Try again in ${seconds} seconds.`,
    headers: { 'Retry-After': String(seconds) },
  }
}

export function invalid(errors: ProblemError[]): Problem {
  return {
    status: 422,
    title: 'The answers cannot be taken',
    detail: errors.map((error) => error.message).join(' '),
    errors,
  }
}
