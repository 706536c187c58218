/** Lines of the log, read as whoever looks for a fault would. */
import { inRequest, logTo, requestNow } from './log';

function written(level?: string) {
  const lines: string[] = [];
  const log = logTo(level, { write: (line: string) => void lines.push(line) });
  return { log, read: () => lines.map((line) => JSON.parse(line) as Record<string, unknown>) };
}

test('a line is JSON with its time, level and words', () => {
  const { log, read } = written();
  log.info({ job: 7 }, 'measured');
  const [line] = read();
  expect(line).toMatchObject({ level: 'info', job: 7, msg: 'measured', pid: process.pid });
  expect(Math.abs(Date.parse(line.time as string) - Date.now())).toBeLessThan(60_000);
});

test('an error keeps where it came from', () => {
  const { log, read } = written();
  log.error(new Error('The disk is gone.'));
  const { err, msg } = read()[0] as { err: { message: string; stack: string }; msg: string };
  expect([err.message, msg]).toEqual(['The disk is gone.', 'The disk is gone.']);
  expect(err.stack).toContain('log.test.ts');
});

test('what happens within a request bears its number, however deep and late, and no other’s', async () => {
  const { log, read } = written();
  const work = async (name: string) => {
    await new Promise((resolve) => setTimeout(resolve, 5));
    log.info(`${name} ${requestNow()}`);
  };
  await Promise.all([inRequest('one', () => work('first')), inRequest('two', () => work('second')), work('none')]);
  const told = read().map(({ msg, request }) => [msg, request]);
  expect(told).toHaveLength(3);
  expect(told).toEqual(expect.arrayContaining([['first one', 'one'], ['second two', 'two'], ['none null', undefined]])); // prettier-ignore
});

test('how much is written can be asked for; a word that isn’t known is the usual', () => {
  const told = (level?: string) => {
    const { log, read } = written(level);
    log.debug('d');
    log.info('i');
    log.error('e');
    return read().map(({ msg }) => msg);
  };
  expect(told()).toEqual(['i', 'e']);
  expect(told('loud')).toEqual(['i', 'e']);
  expect(told('debug')).toEqual(['d', 'i', 'e']);
  expect(told('error')).toEqual(['e']);
  expect(told('silent')).toEqual([]);
});
