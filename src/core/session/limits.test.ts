import { MOST_DEPTH, tooMany, tooMuchText } from './limits';
import { parseSession, parseSessionText, SessionError } from './parse';

const problemsOf = (read: () => unknown): string[] => {
  try {
    read();
    return [];
  } catch (error) {
    if (error instanceof SessionError) return error.problems;
    throw error;
  }
};

describe('text', () => {
  const nested = (depth: number) => '['.repeat(depth) + ']'.repeat(depth);

  test('is refused by its length and its depth, before it is parsed', () => {
    expect(tooMuchText('{}')).toBeNull();
    expect(tooMuchText('x'.repeat(101), 100)).toContain('characters are more than');
    expect(tooMuchText(nested(MOST_DEPTH))).toBeNull();
    expect(tooMuchText(nested(MOST_DEPTH + 1))).toContain(`more than ${MOST_DEPTH} deep`);
  });

  test('brackets in strings are text, quotes in strings too', () => {
    expect(tooMuchText(JSON.stringify({ a: '['.repeat(500), b: `\\"${'{'.repeat(500)}` }))).toBeNull();
    expect(tooMuchText(`{"a": "\\\\", "b": ${nested(MOST_DEPTH)}}`)).toContain('deep');
  });

  test('a hundred thousand brackets are a sentence, not an overflow', () => {
    expect(problemsOf(() => parseSessionText(`{"deep": ${nested(100_000)}}`))).toEqual([
      `session: its brackets are nested more than ${MOST_DEPTH} deep`,
    ]);
  });
});

describe('lists', () => {
  const names = (count: number) => Array.from({ length: count }, (_, i) => ({ id: `f${i}` }));

  test('each has an end, told with what is there and what is held', () => {
    expect(tooMany({ kits: [{ filters: names(600) }, { filters: names(600) }] })).toEqual([
      '1200 filters are more than a session holds (1000)',
    ]);
    expect(tooMany({ takes: [{ files: names(100_001) }] })).toEqual([
      '100001 files are more than a session holds (100000)',
    ]);
    expect(tooMany({ takes: names(10_000), patches: names(5_000), scenes: names(1_000) })).toEqual([]);
  });

  test('what isn’t a list is left to the schema', () => {
    for (const odd of [null, 3, [], { kits: 'many', takes: {} }, { kits: [null, 7] }]) expect(tooMany(odd)).toEqual([]);
  });

  test('ten thousand filters are refused at once', () => {
    expect(problemsOf(() => parseSession({ kits: [{ id: 'k', filters: names(10_000) }] }))).toEqual([
      'session: 10000 filters are more than a session holds (1000)',
    ]);
  });
});
