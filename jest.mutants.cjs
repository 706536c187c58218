/** For mutants: the core's quick tests alone, one at a time, since each is run hundreds of times. */
const base = require('./jest.config.cjs');

module.exports = {
  ...base,
  testMatch: ['<rootDir>/src/core/**/*.test.ts'],
  // Whole sessions take minutes a mutant; what they alone would notice counts as a survivor.
  testPathIgnorePatterns: [
    '/node_modules/',
    'core/(measure|coverage)\\.test\\.ts$',
    'core/measures/[a-z]+\\.test\\.ts$',
    'core/laying/',
    'core/reading/memory\\.test\\.ts$',
    'core/light/recover\\.test\\.ts$',
    'core/measures/motion/smear\\.test\\.ts$',
  ],
  maxWorkers: 1,
};
