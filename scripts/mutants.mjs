/**
 * Changes the core's code in small ways and looks whether a test notices: `npm run mutants [-- PART]`. Without a part the parts are
 * listed. Each ends within half an hour on two cores; the score and what survived lie in test-results/mutants/PART.txt.
 */
import { mkdir, readdir, writeFile } from 'node:fs/promises';
import { join, relative } from 'node:path';
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

/** Runs one stage: these places of the code, changed, against the quick tests or the worked ones. */
function run(part, stage, mutate, name) {
  process.env.GLADE_MUTANT_TESTS = testsOf(part);
  process.env.GLADE_MUTANT_STAGE = stage;
  return new Stryker({
    mutate,
    testRunner: 'jest',
    jest: { projectType: 'custom', configFile: 'jest.mutants.cjs', enableFindRelatedTests: false },
    coverageAnalysis: 'perTest',
    ignoreStatic: true,
    concurrency: Number(process.env.GLADE_MUTANT_WORKERS ?? 2),
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
}

const isAlive = ({ status }) => status === 'Survived' || status === 'NoCoverage';
const isKilled = ({ status }) => status === 'Killed' || status === 'Timeout';
/** What makes two mutants of two runs the same. */
const keyOf = ({ fileName, location, mutatorName, replacement }) =>
  JSON.stringify([relative('.', fileName), location, mutatorName, replacement]);
/** A place as Stryker's `mutate` takes it: lines and columns from 1 there, from 0 here. */
const placeOf = ({ fileName, location: { start, end } }) =>
  `${relative('.', fileName)}:${start.line + 1}:${start.column}-${end.line + 1}:${end.column}`;

/** Examples worked by hand measure whole sessions: they are asked only of what the quick tests let live. */
async function score(part, name) {
  const all = await run(part, 'quick', [`${part}/**/*.ts`, `!${part}/**/*.test.ts`, `!${part}/**/*.d.ts`], name);
  const killed = new Set(all.filter(isKilled).map(keyOf));
  const alive = all.filter(isAlive);
  const isWorked = (await readdir(part, { recursive: true })).some((file) => file.endsWith('.worked.test.ts'));
  if (alive.length > 0 && isWorked) {
    const again = await run(part, 'worked', [...new Set(alive.map(placeOf))], `${name}-worked`);
    for (const one of again.filter(isKilled)) killed.add(keyOf(one));
  }
  return { killed: killed.size, alive: alive.filter((one) => !killed.has(keyOf(one))) };
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
    const { killed, alive } = await score(part, name);
    const share = (100 * killed) / Math.max(1, killed + alive.length);
    lines.push(
      `${part.replace('src/core/', '').padEnd(26)}${share.toFixed(1).padStart(6)} %  ${killed} killed, ${alive.length} survived`,
      ...alive.map(
        (one) => `  ${placeOf(one)} ${one.mutatorName}: ${one.replacement.replaceAll(/\s+/g, ' ').slice(0, 80)}`,
      ),
    );
    console.log(lines.at(-1 - alive.length));
    await writeFile(join(OUT, `${name}.txt`), `${lines.splice(0).join('\n')}\n`);
  }
}

void main();
