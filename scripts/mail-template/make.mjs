import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import prettier from 'prettier'
import { root, run } from '../ready.mjs'

/**
 * Makes the markup that old mail programs need, once: `src/core/message/template.ts` of `template.mjml`, and
 * `src/core/letter/template.ts`, with a part for each kind of block, of `letter.mjml`. What makes it is installed here, at
 * its first run: a fifth of all packages, which nothing else needs.
 */
const here = import.meta.dirname
if (!existsSync(join(here, 'node_modules'))) run('npm', ['ci', '--loglevel=error'], { cwd: here })
const { default: mjml } = await import('mjml')

async function markupOf(folder, name) {
  const { html, errors } = await mjml(readFileSync(join(folder, name), 'utf8'), {
    validationLevel: 'skip',
    keepComments: true,
  })
  if (errors.length > 0) throw new Error(errors.map(({ formattedMessage }) => formattedMessage).join('\n'))
  // It sets every part from left to right, whatever the language of the whole.
  return html.replaceAll('direction:ltr', 'direction:[[direction]]')
}

async function write(folder, code) {
  const file = join(folder, 'template.ts')
  writeFileSync(file, await prettier.format(code, { ...(await prettier.resolveConfig(file)), parser: 'typescript' }))
}

const messages = join(root, 'src/core/message')
await write(
  messages,
  `/** Made of template.mjml by \`npm run mail-template\`. \`[[names]]\` stand for what belongs there. */\nexport const template = ${JSON.stringify(await markupOf(messages, 'template.mjml'))}\n`,
)

const letters = join(root, 'src/core/letter')
const letter = await markupOf(letters, 'letter.mjml')
/** What stands between `<!--name-->` and `<!--/name-->`. */
const between = (text, name) =>
  text.slice(text.indexOf(`<!--${name}-->`) + name.length + 7, text.indexOf(`<!--/${name}-->`))
const replaced = (text, name, by) =>
  text.slice(0, text.indexOf(`<!--${name}-->`)) + by + text.slice(text.indexOf(`<!--/${name}-->`) + name.length + 8)
const rows = between(letter, 'rows')
const names = ['words', 'title', 'heading', 'quote', 'picture', 'linked-picture', 'button', 'rule', 'space']
// A picture is as wide as it is, or as its place.
const sized = (part) =>
  part.replaceAll('width:536px', 'width:[[width]]px').replaceAll('width="536"', 'width="[[width]]"')
const parts = Object.fromEntries(
  names.map((name) => [name, sized(between(rows, name)).replaceAll(/\n\s+/g, '\n').trim()]),
)
const frame = replaced(letter, 'sections', '[[sections]]')
const sections = between(letter, 'sections')
const whole = {
  frame,
  section: replaced(between(sections, 'section'), 'rows', '[[rows]]').trim(),
  two: between(sections, 'two').trim(),
  ...parts,
}
await write(
  letters,
  `/** Made of letter.mjml by \`npm run mail-template\`: the frame of a letter, and a part for each kind of block. \`[[names]]\` stand for what belongs there. */\nexport const letterParts = ${JSON.stringify(whole)}\n`,
)
