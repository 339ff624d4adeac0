import js from '@eslint/js'
import hooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

const features = [
  'camera',
  'check',
  'cut',
  'dog',
  'entrance',
  'kit',
  'marks',
  'next',
  'outline',
  'phone',
  'photos',
  'practice',
  'salon',
  'today',
  'trust',
  'wishes',
]

/** What is forbidden to a set of files, with the reason that is told. */
const forbidden = (files, rule) => ({ files, rules: { 'no-restricted-imports': ['error', rule] } })

export default tseslint.config(
  { ignores: ['dist', 'src/api/schema.d.ts'] },
  js.configs.recommended,
  { files: ['tools/*.mjs'], languageOptions: { globals: { Map: 'readonly' } } },
  ...tseslint.configs.strict,
  hooks.configs.flat.recommended,
  // Two features share what lies in shared/, never each other's files. Views draw; hooks talk to the server.
  ...features.map((feature) =>
    forbidden([`src/features/${feature}/*.tsx`], {
      patterns: [
        {
          group: features.filter((other) => other !== feature).map((other) => `../${other}/*`),
          message: 'Another feature: put what both need into shared/.',
        },
        {
          group: ['**/api/client'],
          importNames: ['api'],
          message: 'A view asks a hook, which asks the server.',
        },
        { group: ['@tanstack/react-query'], message: 'A view asks a hook, which asks the server.' },
      ],
    }),
  ),
  ...features.map((feature) =>
    forbidden([`src/features/${feature}/use*.ts`], {
      patterns: [
        {
          group: features.filter((other) => other !== feature).map((other) => `../${other}/*`),
          message: 'Another feature: put what both need into shared/.',
        },
      ],
    }),
  ),
  forbidden(['src/shared/*.tsx', 'src/ui/*.tsx', 'src/ui/*.ts', 'src/undo/*'], {
    patterns: [
      { group: ['**/features/**'], message: 'What is shared knows no feature.' },
      {
        group: ['**/api/client'],
        importNames: ['api'],
        message: 'A view asks a hook, which asks the server.',
      },
    ],
  }),
  forbidden(
    [
      'src/features/*/*Machine.ts',
      'src/shared/*Machine.ts',
      'src/outbox/*Machine.ts',
      'src/undo/undoable.ts',
    ],
    {
      paths: [{ name: 'react', message: 'A machine is a pure reducer.' }],
      patterns: [
        { group: ['**/api/client'], importNames: ['api'], message: 'A machine is a pure reducer.' },
        { group: ['@tanstack/react-query'], message: 'A machine is a pure reducer.' },
      ],
    },
  ),
)
