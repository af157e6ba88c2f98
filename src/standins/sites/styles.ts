import type { SiteKind } from '#core/site'

/** Deliberately unlike a form's, with rules for bare tags as real sites have. */
const common = `
  body { margin: 0; background: #fbfaf5; color: #22303a; font: 18px/1.65 Georgia, 'DejaVu Serif', serif; }
  header { display: flex; flex-wrap: wrap; justify-content: space-between; gap: 4px 24px; padding: 22px max(24px, calc(50vw - 494px)); }
  header a { color: #f3ead2; text-decoration: none; }
  header .name { font-size: 22px; letter-spacing: .01em; }
  header nav a { margin-inline-start: 18px; font-size: 16px; }
  header a:hover, header a:focus { text-decoration: underline; }
  .columns { display: flex; flex-wrap: wrap; justify-content: center; gap: 0 28px; padding: 0 24px; }
  main { flex: 0 1 680px; min-width: min(680px, 100%); padding: 36px 0 60px; }
  aside { flex: 0 0 280px; padding: 44px 0 60px; color: #4d4936; font-size: 16px; }
  article + article { margin-top: 48px; padding-top: 40px; border-top: 1px solid #ddd6c4; }
  .date { margin: 0; color: #6b6650; font-size: 15px; }
  h1, h2 { margin: 4px 0 14px; font-weight: normal; line-height: 1.2; }
  h1 { font-size: 34px; } h2 { font-size: 27px; }
  a { color: #1f5673; }
  p { margin: 0 0 1em; }
  footer { padding: 20px 24px 36px; color: #6b6650; font-size: 14px; text-align: center; }
  .posts { padding: 0; list-style: none; }
  .posts li { display: flex; justify-content: space-between; padding: 12px 0; border-bottom: 1px solid #ddd6c4; }
  .posts span { color: #6b6650; font-size: 15px; }
  .edit label { display: block; margin-bottom: 18px; font-size: 15px; color: #4d4936; }
  .edit textarea { box-sizing: border-box; display: block; width: 100%; margin-top: 6px; padding: 10px 12px; border: 1px solid #a89f84; background: #fff; color: #22303a; font: 16px/1.5 Georgia, serif; }
  .edit textarea.code { font: 14px/1.5 'DejaVu Sans Mono', monospace; }
  .edit button { padding: 9px 20px; border: 0; background: #1f5673; color: #fff; font: inherit; cursor: pointer; }
  .notice { padding: 14px; border: 1px dashed #a89f84; overflow: auto; font-size: 14px; }
  .edit p a, nav a + a { margin-inline-start: 14px; }
  .saved { padding: 10px 14px; background: #e5eedb; }
`

/** What is told apart by how its pages are laid out: each breaks what is pasted in another way. */
export const siteStyles: Record<SiteKind, string> = {
  'self-hosted-blog': common,
  // A column that centres and limits whatever stands in it.
  'block-editor-blog': `${common}
  article { display: grid; grid-template-columns: 1fr min(100%, 640px) 1fr; }
  article > * { grid-column: 2; }
  body { font-family: 'DejaVu Sans', sans-serif; font-size: 17px; }`,
  'builder-with-head': `${common}
  html { font-size: 62.5%; } body { font: 1.7rem/1.6 'DejaVu Sans', sans-serif; background: #f7f4fb; }
  article { display: flex; flex-direction: column; align-items: flex-start; }
  *, *::before, *::after { box-sizing: border-box; } input, button { border-radius: 0; text-transform: uppercase; }`,
  'builder-without-code': `${common} body { background: #f6efe4; }`,
  'static-pages': `${common} body { font-family: 'DejaVu Sans Mono', monospace; font-size: 16px; }`,
  other: common,
}
