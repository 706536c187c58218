/** What a program behind the fence sees, tried with Debian's own tools: the file that is named, and nothing else of ours. */
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ChildFailed, runChild } from './children';
import { fenced, fenceStands } from './fence';

let folder: string;
let file: string;
let server: Server;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'glade-fence-'));
  file = join(folder, 'a.bin');
  await writeFile(file, 'foreign bytes');
  await writeFile(join(folder, 'secret.txt'), 'ours');
  server = createServer((_, response) => response.end('reached'));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
});
afterAll(async () => {
  server.close();
  await rm(folder, { recursive: true, force: true });
});

const limits = () => ({ seconds: 20, memory: 2_000_000_000, output: 100_000, reads: file });
const sh = async (script: string, more: object = {}) =>
  (await runChild('bash', ['-c', script, 'bash', file], { ...limits(), ...more })).toString();

test('the words name what is opened, in order: system, scratch, ours', () => {
  const words = fenced(['tool', 'x'], { reads: [['/pictures/a', '/scratch/foreign.tif']], work: '/scratch' });
  expect(words.slice(0, 3)).toEqual(['bwrap', '--unshare-all', '--die-with-parent']);
  expect(words.slice(-3)).toEqual(['--', 'tool', 'x']);
  expect(words.join(' ')).toContain('--ro-bind /pictures/a /scratch/foreign.tif');
  expect(words.join(' ')).not.toContain('--ro-bind / /');
  expect(words.join(' ')).not.toMatch(/--(?:bind|share-net)/);
});

// The rest needs a system that lets a fence be built, as Debian does; where it doesn't the limits alone are tried.
test('the named file is read under another name, and its neighbors aren’t there', async () => {
  const stands = await fenceStands();
  expect(await sh('cat "$1"')).toBe('foreign bytes');
  const seen = await sh(`ls -R / 2>/dev/null | grep -c secret.txt || true; cat ${join(folder, 'secret.txt')} 2>/dev/null || true; cat /etc/passwd /etc/shadow 2>/dev/null | wc -l; echo "$1"`); // prettier-ignore
  if (stands) expect(seen).toBe('0\n0\n/scratch/foreign.bin\n');
});

test('it can’t be written, nor can anything else that lasts', async () => {
  if (!(await fenceStands())) return;
  expect(await sh('(echo x > "$1") 2>/dev/null || echo kept; touch /usr/x 2>/dev/null || echo kept; echo y > /tmp/z && cat /tmp/z')).toBe('kept\nkept\ny\n'); // prettier-ignore
  expect(await sh('dd if=/dev/zero of=/tmp/big bs=1M count=90 2>/dev/null || echo full')).toBe('full\n');
});

test('no network, not even ours, and no other process', async () => {
  if (!(await fenceStands())) return;
  const { port } = server.address() as AddressInfo;
  expect(await sh(`(exec 3<>/dev/tcp/127.0.0.1/${port} && echo reached) 2>/dev/null || echo none`)).toBe('none\n');
  expect(await sh(`kill -0 ${process.pid} 2>/dev/null && echo seen || echo none`)).toBe('none\n');
});

test('a folder that is given is written to', async () => {
  await sh('echo made > "$(dirname "$1")/out"', { writes: folder });
  const { readFile } = await import('node:fs/promises');
  expect(await readFile(join(folder, 'out'), 'utf8')).toBe('made\n');
});

test('limits hold behind it: time, output, memory; what is missing is named', async () => {
  await expect(sh('sleep 60', { seconds: 0.5 })).rejects.toThrow('it took longer than 0.5 seconds');
  await expect(sh('yes', { output: 1000 })).rejects.toThrow('it gave more than a picture holds');
  await expect(sh('x=$(head -c 400000000 /dev/zero | tr "\\0" a)', { memory: 100_000_000 })).rejects.toThrow(
    ChildFailed,
  );
  await expect(sh('exit 3')).rejects.toThrow('it can’t be decoded');
});
