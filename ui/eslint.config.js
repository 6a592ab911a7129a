import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

/** What the files of a room may not import, and why: types may come from further than values. */
const wall = (files, ...rules) => ({
  files,
  rules: {
    '@typescript-eslint/no-restricted-imports': [
      'error',
      {
        patterns: rules.map(([regex, message, allowTypeImports = false]) => ({
          regex,
          message,
          allowTypeImports,
        })),
      },
    ],
  },
})
const above = '(registry|stations|router|App|main)'

export default ts.config(
  { ignores: ['dist', 'src/api/schema.d.ts'] },
  ...ts.configs.strict,
  ...vue.configs['flat/recommended'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: ts.parser } } },
  {
    rules: {
      'vue/multi-word-component-names': 'off',
      'vue/require-default-prop': 'off',
      '@typescript-eslint/no-non-null-assertion': 'error',
    },
  },
  // the rooms of the page, from the ground up: words and the wire, parts, the door and the
  // frame, the stations, and what puts them together
  wall(
    ['src/words.ts'],
    ['^\\./(?!api/types$)', 'Words are said of what goes over the wire, and know nothing else.'],
  ),
  wall(
    ['src/api/**'],
    [
      '^\\.\\./(?!\\.\\./|words$|workerNames$)',
      'The wire knows no page: it is told what to do when something changes.',
    ],
  ),
  wall(
    ['src/parts/**'],
    [
      '^\\.\\./api/',
      'A part asks the server nothing: it is handed what it shows, and says what was done.',
      true,
    ],
    [`^\\.\\./(${above}|frame|door|jar)(/|$)`, 'A part knows no station, and not what stands around it.'],
  ),
  wall(['src/registry.ts'], ['^\\./(?!api/types$)', 'The registry is told the stations, and knows none.']),
  wall(
    ['src/frame/**', 'src/door/**', 'src/jar/**'],
    ['^\\.\\./(stations|router|App|main)(/|$)', 'The frame knows stations by the registry.'],
    ['^\\.\\./(?:frame|door|jar)/', 'Frame, door and the page of a jar know nothing of each other.'],
  ),
  wall(
    ['src/stations/*/**'],
    ['^\\.\\./(?!\\.\\./)', 'A station knows no other: what two need is a part.'],
    [
      '^\\.\\./\\.\\./(stations|frame|jar|router|App|main)(/|$)',
      'A station knows no other, and not what stands around it.',
    ],
  ),
  prettier,
)
