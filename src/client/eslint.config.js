import js from '@eslint/js';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  { ignores: ['dist', 'node_modules', 'src/api/schema.d.ts'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  reactHooks.configs.flat.recommended,
  {
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { ignoreRestSiblings: true, varsIgnorePattern: '^_' }],
      // No compiler memoises here, so libraries it can't memoise do no harm.
      'react-hooks/incompatible-library': 'off',
      'no-restricted-properties': ['error', { property: 'dangerouslySetInnerHTML', message: 'Text is shown as text.' }],
    },
  },
  {
    // Server state is in a place's queries.ts: what is asked, what is changed, and what a change makes out of date.
    files: ['src/**/*.{ts,tsx}'],
    ignores: ['src/**/queries.ts', 'src/api/*', 'src/test/*', 'src/**/*.test.*'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['**/api/client'],
              importNames: ['api'],
              message: 'Calls stand in the queries.ts of their place.',
            },
          ],
        },
      ],
    },
  },
);
