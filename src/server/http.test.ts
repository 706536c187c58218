/** What routes share: bodies are read by a schema and within bounds, and origins that are none aren't ours. */
import { z } from 'zod';
import { answer, checkOrigin, RequestError, sentTo } from './http';

jest.mock('@/store', () => ({
  AccountError: class extends Error {},
  MediaError: class extends Error {},
  isFull: (error: { code?: string }) => error.code === 'ENOSPC',
  isReadersOnly: () => false,
  NoSuchSession: class extends Error {},
  isAway: () => false,
}));

const body = z.object({ name: z.string() });
const post = (content: BodyInit | null, headers: Record<string, string> = {}) =>
  new Request('http://localhost:8420/api/x', {
    method: 'POST',
    body: content,
    headers: { host: 'localhost:8420', ...headers },
  });
const told = async (content: BodyInit | null, most?: number) => {
  const result = await answer(async () => Response.json(await sentTo(post(content), body, 'Expected a name.', most)));
  return { status: result.status, ...((await result.json()) as object) };
};

test('what is asked for is taken', async () =>
  expect(await told('{"name":"ND8"}')).toEqual({ status: 200, name: 'ND8' }));

test.each([[null], [''], ['null'], ['[]'], ['{"name":3}'], ['{"name":'], ['\u0000']])(
  '%j is told, not an error of ours',
  async (content) => expect(await told(content)).toEqual({ status: 400, error: 'Expected a name.' }),
);

test('more than a bound is left unread, and depth is no way round it', async () => {
  expect(await told(`{"name":"${'x'.repeat(200)}"}`, 100)).toEqual({
    status: 413,
    error: expect.stringContaining('the most that is taken'),
  });
  expect(await told(`{"name":${'['.repeat(5000)}`)).toEqual({ status: 413, error: expect.stringContaining('nested') });
});

test('a stream that never ends is left at the bound', async () => {
  let pulled = 0;
  const endless = new ReadableStream<Uint8Array>({
    pull: (controller) => (pulled++, controller.enqueue(new Uint8Array(1000))),
  });
  const request = new Request('http://localhost/api/x', {
    method: 'POST',
    body: endless,
    duplex: 'half',
  } as RequestInit);
  await expect(sentTo(request, body, 'Expected a name.', 10_000)).rejects.toThrow(RequestError);
  expect(pulled).toBeLessThan(20);
});

test.each([
  [undefined, true],
  ['http://localhost:8420', true],
  ['http://elsewhere.example', false],
  ['null', false],
  ['no address', false],
])('origin %j', (origin, ours) => {
  const request = { headers: new Headers({ host: 'localhost:8420', ...(origin ? { origin } : {}) }) } as Request;
  if (ours) expect(() => checkOrigin(request)).not.toThrow();
  else expect(() => checkOrigin(request)).toThrow(RequestError);
});
