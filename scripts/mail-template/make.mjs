import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import prettier from 'prettier'
import { root, run } from '../ready.mjs'

/**
 * Makes `src/core/message/template.ts` of `template.mjml`: the markup that old mail programs need, made once. What makes
 * it is installed here, at its first run: a fifth of all packages, which nothing else needs.
 */
const here = import.meta.dirname
if (!existsSync(join(here, 'node_modules'))) run('npm', ['ci', '--loglevel=error'], { cwd: here })
const { default: mjml } = await import('mjml')
const folder = join(root, 'src/core/message')
const { html, errors } = await mjml(readFileSync(join(folder, 'template.mjml'), 'utf8'), {
  validationLevel: 'skip',
  keepComments: true,
})
if (errors.length > 0) throw new Error(errors.map(({ formattedMessage }) => formattedMessage).join('\n'))
// It sets every part from left to right, whatever the language of the whole.
const directed = html.replaceAll('direction:ltr', 'direction:[[direction]]')
const code = `/** Made of template.mjml by \`npm run mail-template\`. \`[[names]]\` stand for what belongs there. */\nexport const template = ${JSON.stringify(directed)}\n`
writeFileSync(
  join(folder, 'template.ts'),
  await prettier.format(code, { ...(await prettier.resolveConfig(join(folder, 'template.ts'))), parser: 'typescript' }),
)
