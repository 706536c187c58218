import { defineConfig, globalIgnores } from 'eslint/config';
import nextVitals from 'eslint-config-next/core-web-vitals';
import nextTypescript from 'eslint-config-next/typescript';
import reactHooks from 'eslint-plugin-react-hooks';

/** React's compiler reads a whole file for these, four fifths of the linting's time: only where components and hooks are. */
const COMPILED = Object.keys(reactHooks.configs.recommended.rules).filter(
  (name) => !['react-hooks/rules-of-hooks', 'react-hooks/exhaustive-deps'].includes(name),
);

export default defineConfig([
  ...nextVitals,
  ...nextTypescript,
  globalIgnores([
    'node_modules/**',
    '.next/**',
    'dist/**',
    'public/**',
    'var/**',
    'next-env.d.ts',
    'test-results/**',
    'playwright-report/**',
  ]),
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', ignoreRestSiblings: true }],
      // Previews come from this server in the size they are shown at; the optimizer would only copy them.
      '@next/next/no-img-element': 'off',
    },
  },
  {
    files: ['**/*.{ts,mjs,cjs}', '**/*.test.tsx'],
    ignores: ['**/use[A-Z]*.ts', 'src/ui/keys.ts', 'src/ui/selection.ts'],
    rules: Object.fromEntries(COMPILED.map((name) => [name, 'off'])),
  },
  // What a reader holds in the head at once.
  { files: ['src/core/**/*.ts'], ignores: ['**/*.test.ts'], rules: { 'max-lines-per-function': ['error', 80] } },
  { files: ['src/**/*.tsx'], ignores: ['**/*.test.tsx'], rules: { 'max-lines-per-function': ['error', 150] } },
]);
