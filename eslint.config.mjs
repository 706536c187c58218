import { defineConfig, globalIgnores } from 'eslint/config';
import nextVitals from 'eslint-config-next/core-web-vitals';
import nextTypescript from 'eslint-config-next/typescript';

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
  // What a reader holds in the head at once.
  { files: ['src/core/**/*.ts'], ignores: ['**/*.test.ts'], rules: { 'max-lines-per-function': ['error', 80] } },
  { files: ['src/**/*.tsx'], ignores: ['**/*.test.tsx'], rules: { 'max-lines-per-function': ['error', 150] } },
]);
