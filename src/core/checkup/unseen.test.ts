import { type AnswerCase, type FormContent, startContent } from '#core/form'
import { startMail } from '#core/message'
import type { MailSettings } from '#core/mail'
import { form, list, site, spot } from '../../../tests/tables/samples'
import { checkup } from '.'

const PAGE = 'https://hill.example/thanks'
function contentWith(own: readonly AnswerCase[]): FormContent {
  const content = startContent('Our letter')
  for (const one of own) content.answers[one] = { show: 'address', heading: '', message: '', address: PAGE }
  return content
}
const found = (
  own: readonly AnswerCase[],
  confirm: MailSettings['confirm'] | null,
  kind = site.kind,
  draft = contentWith(own),
) => {
  const mail = confirm === null ? null : startMail(list.id, list.name)
  if (mail !== null) Object.assign(mail.draft, { confirm, senderAddress: 'letters@hill.example' })
  return checkup({
    form: { ...form, draft },
    list,
    mail,
    spots: [kind === site.kind ? spot : { ...spot, kind: 'pop-up' }],
    sites: [{ ...site, kind }],
    receiver: 'http://localhost:4310',
    pictures: [],
    videoHosts: [],
  })
}

test.each<[own: AnswerCase[], confirm: MailSettings['confirm'] | null, unseen: AnswerCase | null]>([
  // Who joins at once gets there; who has to confirm does not.
  [['joined'], null, null],
  [['joined'], 'never', null],
  [['joined'], 'always', 'joined'],
  [['joined'], 'regions', 'joined'],
  [['joined', 'confirmed'], 'always', null],
  [['joined', 'confirm-first'], 'always', null],
  [['confirmed'], 'always', null],
  // Confirming was taken off again.
  [['confirmed'], 'never', 'confirmed'],
  [['confirmed', 'joined'], 'never', null],
  [[], 'always', null],
])('own pages for %p with %p to confirm: nobody gets to the one for %p', (own, confirm, unseen) => {
  const all = found(own, confirm).filter(({ code }) => code === 'page-unseen')
  expect(all.map(({ about }) => about)).toEqual(unseen === null ? [] : [unseen])
  const mend = all[0]?.mend
  if (mend === undefined) return
  // By one press it is shown where visitors come along, with the words that were there kept.
  const draft = mend.apply(contentWith(own))
  const shown = confirm === 'never' ? 'joined' : 'confirmed'
  expect(draft.answers[shown]).toMatchObject({ show: 'address', address: PAGE })
  expect(draft.answers[shown]!.heading).not.toBe('')
  expect(found(own, confirm, site.kind, draft).map(({ code }) => code)).not.toContain('page-unseen')
})

test('a pop-up on a site without a place in its head is told; elsewhere it is not', () => {
  const codes = (kind: typeof site.kind) => found([], null, kind).map(({ code }) => code)
  expect(codes('builder-without-code')).toContain('pop-up-nowhere')
  expect(codes('static-pages')).not.toContain('pop-up-nowhere')
})
