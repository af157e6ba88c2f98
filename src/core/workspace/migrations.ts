import { quietPalette } from '#core/look'
import { richText } from '#core/text'
import { fieldKinds } from '#core/form'

/**
 * What older workspaces lack, put in step by step: `migrations[1]` turns version 1 into version 2. Each works
 * on plain JSON as it was then, is never changed once landed, and leaves alone what it does not understand:
 * the schema judges the result. The same steps bring up the browser's database and the receiver's.
 */
type Json = Record<string, unknown>

export const migrations: Record<number, (workspace: Json) => Json> = {
  1: (workspace) => ({
    ...workspace,
    version: 2,
    sites: each(workspace.sites, siteFrom1),
    forms: each(workspace.forms, formFrom1),
    versions: each(workspace.versions, versionFrom1),
    themes: [],
    pictures: [],
  }),
}

export function siteFrom1(site: Json): Json {
  return { ...site, palette: site.palette ?? null }
}

export function formFrom1(form: Json): Json {
  return {
    ...form,
    theme: form.theme ?? null,
    isArchived: form.isArchived ?? false,
    ...('draft' in form && { draft: contentFrom1(form.draft) }),
  }
}

export function versionFrom1(version: Json): Json {
  return { ...version, content: contentFrom1(version.content) }
}

/** Words become rich text, fields and look get what version 1 took for granted. It looks as it did. */
function contentFrom1(content: unknown): unknown {
  if (!isJson(content) || !isJson(content.words) || 'shape' in content) return content
  const { heading, introduction, button, small } = content.words
  const look = isJson(content.look) ? content.look : {}
  const colours = isJson(look.colours) ? look.colours : quietPalette
  return {
    shape: 'band',
    language: 'en',
    texts: {},
    words: {
      heading,
      introduction: richFrom(introduction),
      points: [],
      note: [],
      button,
      small: richFrom(small),
      quote: [],
      quoteBy: '',
      after: [],
    },
    illustration: null,
    video: null,
    fields: each(content.fields, fieldFrom1),
    look: {
      arrangement: 'line',
      align: 'start',
      colours: { ...colours, field: null, edge: null },
      ground: { kind: 'colour' },
      picture: { place: 'above', strength: 30 },
      type: { font: 'site', size: 100, headingSize: 140, weight: '400', headingWeight: '700' },
      space: { inside: 24, gap: 12, outside: 24, width: 720 },
      border: { width: 0, colour: '#2b2b33', corner: 6 },
      shadow: 'none',
      field: { corner: 4, size: 'medium', shape: 'box' },
      button: { corner: 4, size: 'medium', fill: 'full', width: 'text' },
      result: 'plain',
      entrance: 'none',
      custom: { typed: '', rules: [] },
    },
    answers: content.answers,
    page: { title: '', description: '', sharePicture: null, icon: null },
  }
}

function fieldFrom1(field: Json): Json {
  const isKnown = fieldKinds.some(({ kind }) => kind === field.kind)
  return isKnown
    ? { labelShown: true, hint: '', error: '', width: 'full', autofill: '', step: 1, showWhen: null, ...field }
    : field
}

function richFrom(text: unknown): unknown {
  return typeof text === 'string' ? richText(text) : text
}

function each(list: unknown, change: (one: Json) => Json): unknown {
  return Array.isArray(list) ? list.map((one: unknown) => (isJson(one) ? change(one) : one)) : list
}

function isJson(value: unknown): value is Json {
  return value !== null && typeof value === 'object' && !Array.isArray(value)
}
