/**
 * Changes the core's code in small ways and looks whether a test notices: `npm run mutants [-- PART]`. Without a part the parts are
 * listed. Each ends within half an hour on two cores; the report lies in test-results/mutants/PART.json.
 */
import { mkdir, readdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Stryker } from '@stryker-mutator/core';

const OUT = 'test-results/mutants';
const ROOMS = ['src/core/formulas', 'src/core/measures', 'src/core/judging', 'src/core/words', 'src/core/light'];

/** Folders that are mutated one at a time: the rooms' own ones, and rooms that have none. */
async function parts() {
  const found = [];
  for (const room of ROOMS) {
    const entries = await readdir(room, { withFileTypes: true });
    const folders = entries.filter((one) => one.isDirectory()).map((one) => join(room, one.name));
    found.push(...(folders.length > 0 ? folders : [room]));
  }
  return found;
}

/** Folders of tests that may notice: beside the code; of what turns codes into light and color also those that use it at once. */
function testsOf(part) {
  const more = {
    'src/core/formulas/transfer': 'src/core/light',
    'src/core/formulas/optics': 'src/core/measures/polarizer',
  };
  return [part, ...(more[part] ? [more[part]] : [])].join(',');
}

async function main() {
  const all = await parts();
  const [wanted] = process.argv.slice(2);
  const chosen = all.filter((one) => wanted !== undefined && (wanted === 'all' || one.includes(wanted)));
  if (chosen.length === 0) {
    console.log(
      `usage: npm run mutants -- PART | all\n${all.map((one) => `  ${one.replace('src/core/', '')}`).join('\n')}`,
    );
    return;
  }
  await mkdir(OUT, { recursive: true });
  const lines = [];
  for (const part of chosen) {
    const name = part.replace('src/core/', '').replaceAll('/', '-');
    process.env.GLADE_MUTANT_TESTS = testsOf(part);
    const results = await new Stryker({
      mutate: [`${part}/**/*.ts`, `!${part}/**/*.test.ts`, `!${part}/**/*.d.ts`],
      testRunner: 'jest',
      jest: { projectType: 'custom', configFile: 'jest.mutants.cjs', enableFindRelatedTests: false },
      coverageAnalysis: 'perTest',
      ignoreStatic: true,
      concurrency: 2,
      timeoutMS: 20_000,
      timeoutFactor: 3,
      reporters: ['json', 'clear-text'],
      clearTextReporter: {
        allowColor: false,
        logTests: false,
        reportMutants: false,
        reportTests: false,
        reportScoreTable: false,
      },
      jsonReporter: { fileName: join(OUT, `${name}.json`) },
      tempDirName: 'var/mutants',
      ignorePatterns: ['var', 'dist', '.next', 'docs', 'e2e', 'public', 'test-results'],
      cleanTempDir: 'always',
      logLevel: 'error',
    }).runMutationTest();
    const count = (status) => results.filter((one) => one.status === status).length;
    const killed = count('Killed') + count('Timeout');
    const alive = count('Survived') + count('NoCoverage');
    const line = `${part.replace('src/core/', '').padEnd(26)}${((100 * killed) / Math.max(1, killed + alive)).toFixed(1).padStart(6)} %  ${killed} killed, ${count('Survived')} survived, ${count('NoCoverage')} untested`;
    console.log(line);
    lines.push(line);
  }
  await writeFile(join(OUT, 'scores.txt'), `${lines.join('\n')}\n`);
}

void main();
