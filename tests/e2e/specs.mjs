/**
 * What each file of end-to-end tests is about: where one of these folders changed, a short run has all of its tests.
 * `together`: its tests build on each other, and are chosen as one.
 *
 * @type {Record<string, { of: string[], together?: true }>}
 */
export const specs = {
  'access.spec.ts': { of: ['src/workshop/styles/', 'src/workshop/controls/', 'src/workshop/shell/'] },
  'any-service.spec.ts': {
    of: ['src/workshop/connections/', 'src/core/example/', 'src/standins/service/documented/'],
    together: true,
  },
  'desk.spec.ts': { of: ['src/workshop/desk/', 'src/workshop/help/'] },
  'dev.spec.ts': { of: ['scripts/dev.mjs', 'vite.'] },
  'document.spec.ts': { of: ['src/workshop/document/'] },
  'first-hour.spec.ts': { of: ['src/workshop/new-form/', 'src/core/sync/'] },
  'first-line.spec.ts': { of: ['src/workshop/line/', 'src/core/line/'] },
  'form-station.spec.ts': { of: ['src/workshop/form/content/', 'src/core/look/', 'src/core/form/'] },
  'going-online.spec.ts': { of: ['deploy/', 'src/receiver/care/', 'src/receiver/metrics/', 'scripts/restore.mjs'] },
  'hand-over-kills.spec.ts': { of: ['src/receiver/hand-over/'] },
  'hand-over.spec.ts': { of: ['src/receiver/hand-over/', 'src/workshop/connections/'], together: true },
  'letters.spec.ts': { of: ['src/workshop/letters/', 'src/receiver/letters/', 'src/core/letter/'] },
  'lists.spec.ts': { of: ['src/workshop/lists/', 'src/core/list/', 'src/core/import/'] },
  'mail.spec.ts': { of: ['src/receiver/mail/', 'src/workshop/mail-room/', 'src/core/mail/'] },
  'measuring.spec.ts': { of: ['src/workshop/measuring/'] },
  'messages.spec.ts': { of: ['src/receiver/messages/', 'src/core/message/'] },
  'people.spec.ts': { of: ['src/workshop/people/', 'src/receiver/people/'] },
  'presses.spec.ts': { of: ['src/receiver/public/', 'src/runtime/onward.ts', 'src/runtime/sending.ts'] },
  'preview.spec.ts': { of: ['src/workshop/preview/'] },
  'reading.spec.ts': { of: ['src/receiver/reading/', 'src/core/feed/'] },
  'real-pages.spec.ts': { of: ['src/core/embed/', 'src/core/css/'] },
  'receiver.spec.ts': { of: ['src/receiver/store/', 'src/receiver/http/', 'src/core/signup/'] },
  'rehearsal.spec.ts': { of: ['src/receiver/rehearsals/', 'src/workshop/rehearsal/', 'src/core/rehearsal/'] },
  'rendering.spec.ts': { of: ['src/core/render/', 'src/core/texts/'] },
  'results.spec.ts': { of: ['src/workshop/results/', 'src/receiver/results/', 'src/core/results/'] },
  'rules.spec.ts': { of: ['src/runtime/rules.ts', 'src/runtime/place.ts', 'src/core/spot/'] },
  'safety.spec.ts': { of: ['src/core/html/', 'src/core/render/'] },
  'script.spec.ts': { of: ['src/runtime/'] },
  'several-people.spec.ts': { of: ['src/receiver/presence/', 'src/receiver/clients/', 'src/receiver/owner/'] },
  'several-receivers.spec.ts': { of: ['src/receiver/store/', 'src/receiver/ledger/'], together: true },
  'sites.spec.ts': { of: ['src/workshop/sites/', 'src/standins/sites/', 'src/core/site/'] },
  'small-loops.spec.ts': { of: ['src/core/checkup/', 'src/core/trial/'] },
  'start.spec.ts': { of: ['src/receiver/start.ts', 'src/receiver/settings.ts', 'src/receiver/demo.ts'] },
  'submission.spec.ts': { of: ['src/core/platform.d.ts', 'src/receiver/http/read-body.ts'] },
  'sync.spec.ts': { of: ['src/workshop/sync/', 'src/workshop/data/', 'src/receiver/objects/', 'src/core/sync/'] },
  'verdicts.spec.ts': { of: ['src/core/install/', 'src/core/usable/', 'tests/verdicts/'] },
  'workshop.spec.ts': { of: ['src/workshop/shell/', 'src/workshop/data/', 'src/core/workspace/'] },
}
