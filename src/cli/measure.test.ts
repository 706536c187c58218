/** The command as it ships: what it says of slips, and where its readings go. */
import { execFile, spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, open, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describeSession, fileName } from '@/simulator/session';
import { renderTake } from '@/simulator/bench';
import { writePicture } from '@/simulator/files';
import { planTakes } from '@/simulator/plan';
import { randomPlan } from '@/simulator/randomBench';

const PROGRAM = join(__dirname, '../../dist/measure.mjs');

let folder: string;
const plan = {
  ...randomPlan('cli', { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 1 }),
  width: 240,
  height: 160,
};
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'glade-cli-'));
  plan.filters = plan.filters.slice(0, 1);
  for (const take of planTakes(plan)) await writePicture(renderTake(plan, take, 0), join(folder, fileName(take, 0)));
  await writeFile(join(folder, 'session.glade.json'), JSON.stringify(describeSession(plan, { id: 'kit' })));
}, 60_000);
afterAll(() => rm(folder, { recursive: true, force: true }));

interface Ended {
  code: number;
  out: string;
  err: string;
}

function run(...words: string[]): Promise<Ended> {
  return new Promise((resolve) =>
    execFile(process.execPath, [PROGRAM, ...words], (error, out, err) =>
      resolve({ code: error ? Number(error.code) : 0, out, err }),
    ),
  );
}

test('a folder, its session file and --out give the same readings', async () => {
  const { code, out } = await run(folder);
  expect(code).toBe(0);
  const readings = JSON.parse(out) as { filters: { density?: object }[] };
  expect(readings.filters[0].density).toBeDefined();
  const file = join(folder, 'out.json');
  expect(await run(join(folder, 'session.glade.json'), '--out', file, '--pretty')).toMatchObject({ code: 0, out: '' });
  const again = JSON.parse(await readFile(file, 'utf8')) as typeof readings;
  expect(again.filters).toEqual(readings.filters);
});

test('slips: a sentence each, and its exit code', async () => {
  await writeFile(join(folder, 'bad.json'), '{"format": "aurora-glade-session", "version": 1');
  const CASES: [words: string[], code: number, says: RegExp][] = [
    [['/nowhere/at/all.json'], 2, /^\/nowhere\/at\/all\.json: there is no such file\.\n$/],
    [[], 1, /no PATH given\nusage: glade measure/],
    [[folder, folder], 1, /one PATH at a time/],
    [[folder, '--no-such-flag'], 1, /usage/],
    [[folder, '--filter', 'nd4000'], 1, /no filter “nd4000” in this session; it has f0/],
    [[join(folder, 'bad.json')], 2, /JSON/],
    [[folder, '--out', '/nowhere/out.json'], 1, /can’t be written/],
  ];
  for (const [words, code, says] of CASES) {
    const ended = await run(...words);
    expect([words, ended.code, ended.out]).toEqual([words, code, '']);
    expect(ended.err).toMatch(says);
    expect(ended.err).not.toContain('    at ');
  }
});

test('who reads may have had enough; a full disk is told', async () => {
  const child = spawn(process.execPath, [PROGRAM, folder], { stdio: ['ignore', 'pipe', 'pipe'] });
  child.stdout.destroy();
  let said = '';
  child.stderr.on('data', (part: Buffer) => (said += part.toString()));
  const [code] = (await once(child, 'close')) as [number];
  expect([code, said.includes('    at ')]).toEqual([0, false]);
  const full = await open('/dev/full', 'w');
  const ended = spawn(process.execPath, [PROGRAM, folder], { stdio: ['ignore', full.fd, 'pipe'] });
  let told = '';
  ended.stderr!.on('data', (part: Buffer) => (told += part.toString()));
  const [ending] = (await once(ended, 'close')) as [number];
  await full.close();
  expect(ending).toBe(1);
  expect(told).toMatch(/the readings can’t be written \(ENOSPC/);
});
