import { mailProblems, mailSchema } from '#core/mail'
import { objectKind } from './kind'

/** Of each list, the mail that it sends. */
export const mail = objectKind({
  table: 'mails',
  schema: mailSchema,
  identity: 'list',
  references: ({ list }) => [{ part: 'list', kind: 'list', key: list }],
  // Nothing that stops publishing is ever sent to anybody, whoever sends the change.
  objection: ({ published }) =>
    published !== null && mailProblems(published).some(({ stops }) => stops) ? 'cannot be published as it is' : null,
  drafted: ['draft'],
  publication: { kind: 'mail', of: (body) => ({ ...body, published: body.draft }) },
})
