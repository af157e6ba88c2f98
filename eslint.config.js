import * as pluginRegexp from 'eslint-plugin-regexp'
import pluginVue from 'eslint-plugin-vue'
import tseslint from 'typescript-eslint'
import vueParser from 'vue-eslint-parser'

/** Rooms with a door, past which nobody imports. */
const workshopRooms = [
  ...[
    'charts',
    'client',
    'connections',
    'controls',
    'data',
    'document',
    'letters',
    'lists',
    'measuring',
    'messages',
    'people',
    'preview',
  ],
  ...['sync', 'writing'],
]
const receiverRooms = [
  ...[
    'browser',
    'care',
    'clock',
    'gifts',
    'hand-over',
    'ledger',
    'letters',
    'limits',
    'mail',
    'messages',
    'objects',
    'outside',
    'people',
  ],
  ...['rehearsals', 'results', 'secrets', 'store', 'values', 'work'],
]
/**
 * Beside the door: a subject's tables, its part of the owner's API and of the list of subjects, and the queue of mails, which
 * needs nothing that sends; in the workshop, components, each by its name.
 */
const besideDoors = '(?!(?:batch-)?tables$|queued$|api$|subject$|.*\\.vue$)'

/** Who may import whom: each folder of `src/` sees core and itself, never its neighbours. */
const neighbours = (rooms, ...forbidden) => ({
  'no-restricted-imports': [
    'error',
    {
      patterns: [
        {
          regex: `^(\\.\\./)+(${forbidden.join('|')})(/|$)`,
          message: 'A layer imports core and itself, never its neighbours.',
        },
        { regex: '/core/', message: 'Go through a subject’s door: #core/<subject>.' },
        {
          regex: `^(\\.{1,2}/)+(${rooms.join('|')})/${besideDoors}`,
          message: 'Go through the room’s door: its index.ts.',
        },
      ],
    },
  ],
})

export default tseslint.config(
  { ignores: ['dist/', 'node_modules/', 'data/', 'docs/', 'src/workshop/public/'] },
  ...tseslint.configs.recommended,
  ...pluginVue.configs['flat/essential'],
  {
    files: ['**/*.vue'],
    languageOptions: { parser: vueParser, parserOptions: { parser: tseslint.parser, sourceType: 'module' } },
    rules: {
      'vue/multi-word-component-names': 'off',
      'vue/no-v-html': 'error',
      'vue/no-restricted-syntax': [
        'error',
        {
          selector: "VElement[name=/^(form|elform)$/]:not(:has(VAttribute[key.name='novalidate']))",
          message: 'What is wrong with an entry is said in our words, beside its field: novalidate.',
        },
      ],
    },
  },
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      eqeqeq: 'error',
      'no-eval': 'error',
      'no-implied-eval': 'error',
    },
  },
  {
    // Whatever a visitor or an owner typed may meet these patterns, so none may take longer than its text is long.
    files: ['src/**/*.{ts,vue}'],
    ignores: ['**/*.test.ts'],
    plugins: { regexp: pluginRegexp },
    rules: {
      'regexp/no-super-linear-backtracking': ['error', { report: 'certain' }],
      'regexp/no-super-linear-move': ['error', { report: 'certain', ignorePartial: false }],
    },
  },
  {
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      // Within a subject by `./`, to another subject only through its door, `#core/<subject>`; outside only Zod.
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex:
                '^(?!\\./|#core/[a-z]+$|(zod|@bramus/specificity(/core)?|css-tree|css-select|css-what|culori|papaparse|ical\\.js|@noble/hashes/[a-z0-9]+\\.js|parse5|qrcode|url-template|http-link-header|shell-quote|yaml|jsonpointer|tldts|countries-and-timezones|leven|@zootools/email-spell-checker)$)',
              message:
                'Core imports core, by a subject’s door (#core/…), Zod, and the readers of formats that packages.md names: HTML, CSS, tables, shell words, YAML, links and the like. Nothing else.',
            },
          ],
        },
      ],
      'no-restricted-globals': [
        'error',
        ...[
          'window',
          'document',
          'navigator',
          'location',
          'process',
          'Buffer',
          'crypto',
          'fetch',
          'setTimeout',
          'setInterval',
          'performance',
          'console',
        ].map((name) => ({
          name,
          message: 'Core has no DOM, no Node, no clock and no randomness: pass in what it needs.',
        })),
      ],
      'no-restricted-syntax': [
        'error',
        {
          selector: "MemberExpression[object.name='Date'][property.name='now']",
          message: 'Core has no clock: pass the time in.',
        },
        {
          selector: "NewExpression[callee.name='Date'][arguments.length=0]",
          message: 'Core has no clock: pass the time in.',
        },
        {
          selector: "MemberExpression[object.name='Math'][property.name='random']",
          message: 'Core has no randomness: pass it in.',
        },
      ],
    },
  },
  { files: ['src/receiver/**/*.ts'], rules: neighbours(receiverRooms, 'workshop', 'standins', 'runtime') },
  {
    // One bounded reader: a body that is read anywhere else can be as large and as slow as its sender likes.
    files: ['src/receiver/**/*.ts'],
    ignores: ['src/receiver/http/read-body.ts', '**/*.test.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector:
            "MemberExpression[object.property.name='req'][property.name=/^(json|text|parseBody|arrayBuffer|bytes|formData|blob|raw)$/]",
          message: 'Bodies are read in read-body.ts, within bounds.',
        },
      ],
    },
  },
  { files: ['src/standins/**/*.ts'], rules: neighbours(workshopRooms, 'workshop', 'receiver', 'runtime') },
  { files: ['src/workshop/**/*.{ts,vue}'], rules: neighbours(workshopRooms, 'receiver', 'standins', 'runtime') },
  {
    files: ['src/runtime/**/*.ts'],
    // A file of its own, fetched where a puzzle is asked for.
    ignores: ['src/runtime/puzzle.ts'],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex:
                '^(?!\\./|\\.\\./core/(signup/rules|signup/came-from|rule/path-pattern|rule/places|rule/applies|rule/dom-tree|email/meant|email/typed|usable/set-control)$)',
              allowTypeImports: true,
              message:
                'The visitors’ script takes the rules, path patterns, places and types of core, and nothing else.',
            },
          ],
        },
      ],
    },
  },
  { files: ['demo/**/*.ts'], rules: neighbours(workshopRooms, 'workshop', 'receiver', 'standins') },
)
