/** For mutants: the core's quick tests alone, one at a time, since each is run hundreds of times. */
// eslint-disable-next-line @typescript-eslint/no-require-imports -- Jest reads its configuration as CommonJS
const base = require('./jest.config.cjs');

/** Examples worked by hand measure whole sessions: a stage of their own. */
const isWorked = process.env.GLADE_MUTANT_STAGE === 'worked';

module.exports = {
  ...base,
  // The part's own tests, and those of the rooms that GLADE_MUTANT_TESTS names: a test file is loaded once a mutant.
  testMatch: (process.env.GLADE_MUTANT_TESTS ?? 'src/core')
    .split(',')
    .map((folder) => `<rootDir>/${folder}/**/*${isWorked ? '.worked' : ''}.test.ts`),
  // Whole sessions take minutes a mutant; what they alone would notice counts as a survivor.
  testPathIgnorePatterns: [
    '/node_modules/',
    ...(isWorked ? [] : ['\\.worked\\.test\\.ts$']),
    'core/(measure|coverage)\\.test\\.ts$',
    'core/measures/[a-z]+\\.test\\.ts$',
    'core/laying/',
    'core/reading/memory\\.test\\.ts$',
    'core/light/recover\\.test\\.ts$',
    'core/measures/motion/smear\\.test\\.ts$',
  ],
  maxWorkers: 1,
};
