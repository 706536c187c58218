/** The tests' share of the code's lines that aren't blank: `npm run share`. Fails below a quarter. */
import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';

const LEAST = 25;
const isTest = (file) => /\.(test|spec)\.\w+$/.test(file) || file.startsWith('e2e/');
const files = execFileSync('git', ['ls-files', '-co', '--exclude-standard'], { encoding: 'utf8' })
  .split('\n')
  .filter((file) => (/\.(ts|tsx|mjs|sh)$/.test(file) || file === 'glade') && existsSync(file));
const lines = { code: 0, tests: 0 };
for (const file of files)
  lines[isTest(file) ? 'tests' : 'code'] += readFileSync(file, 'utf8')
    .split('\n')
    .filter((line) => line.trim() !== '').length;
const share = (100 * lines.tests) / (lines.tests + lines.code);
console.log(`${lines.tests} of ${lines.tests + lines.code} lines are tests: ${share.toFixed(1)} %`);
if (share < LEAST) process.exitCode = 1;
