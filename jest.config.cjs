// What goes wrong on purpose is no news; log.test looks at lines of its own.
process.env.GLADE_LOG ??= 'silent';

/** Unit and integration tests beside the code. The database ones need `./glade test`, which starts one. */
module.exports = {
  testEnvironment: 'node',
  testMatch: ['<rootDir>/src/**/*.test.{ts,tsx}', '<rootDir>/scripts/**/*.test.ts'],
  modulePathIgnorePatterns: ['<rootDir>/.next', '<rootDir>/dist', '<rootDir>/var'],
  transform: {
    '^.+\\.(t|j|mj)sx?$': [
      '@swc/jest',
      {
        jsc: {
          target: 'es2022',
          parser: { syntax: 'typescript', tsx: true },
          transform: { react: { runtime: 'automatic' } },
        },
        module: { type: 'commonjs' },
      },
    ],
  },
  moduleNameMapper: {
    '^@/(.*)$': '<rootDir>/src/$1',
    // Components and actions are tested without the framework around them.
    '^next/navigation$': '<rootDir>/src/ui/testing/navigation.ts',
    '^next/link$': '<rootDir>/src/ui/testing/link.tsx',
    '^next/cache$': '<rootDir>/src/ui/testing/cache.ts',
  },
  setupFiles: ['<rootDir>/src/ui/testing/browser.cjs'],
  transformIgnorePatterns: [
    '/node_modules/(?!(d3-contour|d3-array|internmap|p-limit|p-queue|p-timeout|eventemitter3|yocto-queue|culori|colorjs\\.io|fast-png|iobuffer|fflate|csv-parse)/)',
  ],
  // Without this every use of these goes through the sandbox's global, several times slower.
  sandboxInjectedGlobals: ['Math', 'Number', 'Float64Array', 'Float32Array', 'Uint8Array', 'Uint16Array'],
  // Two cores and two more: tests of the interface wait for what is kept a moment later, those of the store for the database.
  maxWorkers: 4,
  // On a busy machine rendering and encoding take their time; none of the tests measures it.
  testTimeout: 300_000,
};
