/** Documents and texts as broken programs, careless hands and bad will leave them, drawn by seed from sound ones. */
import { seededRandom, type Random } from './random';

type Json = Record<string, unknown>;

/** Values that stand where others are expected. */
const STRANGE: readonly (() => unknown)[] = [
  () => null,
  () => undefined,
  () => '',
  () => 'x'.repeat(5000),
  () => '\u0000\u202E<script>alert(1)</script>=1+1',
  () => -1,
  () => 0,
  () => 1e308,
  () => 1e-320,
  () => NaN,
  () => true,
  () => [],
  () => [[[]]],
  () => ({}),
  () => ['nd8', 'nd8'],
  () => ({ toString: 1, constructor: null, length: -1 }),
  () => '../../etc/passwd',
  () => 'C:\\x\0y',
  () => '1/0',
  () => '∞',
  () => Array.from({ length: 300 }, (_, i) => ({ id: String(i % 7) })),
];

const pickFrom = <T>(random: Random, list: readonly T[]) => list[Math.floor(random.uniform() * list.length)];

/** A document with a few of its values gone, exchanged, doubled, renamed or put elsewhere. */
export function hostileDocument(sound: Json, seed: string): unknown {
  const random = seededRandom(seed);
  const document = structuredClone(sound);
  for (let n = 1 + Math.floor(4 * random.uniform()); n > 0; n--) {
    const holders: (Json | unknown[])[] = [];
    const walk = (value: unknown): void => {
      if (typeof value !== 'object' || value === null) return;
      holders.push(value as Json);
      for (const one of Object.values(value)) walk(one);
    };
    walk(document);
    const holder = pickFrom(random, holders) as Json;
    const keys = Object.keys(holder);
    if (keys.length === 0) continue;
    const key = pickFrom(random, keys);
    const deed = Math.floor(6 * random.uniform());
    if (deed === 0) delete holder[key];
    else if (deed === 1) holder[key] = pickFrom(random, STRANGE)();
    else if (deed === 2) holder[pickFrom(random, keys)] = structuredClone(holder[key]);
    else if (deed === 3 && Array.isArray(holder)) holder.push(structuredClone(holder[Number(key)]));
    else if (deed === 4) holder[`${key}`] = deeply(holder[key], Math.floor(80 * random.uniform()));
    else {
      const odd = pickFrom(random, ['__proto__', 'constructor', 'id', 'length', 'files', key]);
      const value = pickFrom(random, STRANGE)();
      Object.defineProperty(holder, Array.isArray(holder) && odd === 'length' ? key : odd, { value, enumerable: true, writable: true, configurable: true }); // prettier-ignore
    }
  }
  // As it comes over a line: nothing but JSON.
  return JSON.parse(JSON.stringify(document));
}

function deeply(value: unknown, depth: number): unknown {
  return depth === 0 ? value : [deeply(value, depth - 1)];
}

/** A text with pieces cut out, doubled, exchanged and written over. */
export function hostileText(sound: string, seed: string): string {
  const random = seededRandom(seed);
  let text = sound;
  for (let n = 1 + Math.floor(5 * random.uniform()); n > 0; n--) {
    const at = Math.floor(text.length * random.uniform());
    const end = Math.min(text.length, at + Math.floor(40 * random.uniform()));
    const middle = pickFrom(random, [
      '',
      text.slice(at, end).repeat(3),
      '\u0000',
      '\uFEFF',
      '"',
      '{[',
      ',,,,',
      '-',
      '1e999',
      'NaN',
      '\n\n',
      '00:00:00,000 --> ',
      String.fromCharCode(Math.floor(65_536 * random.uniform())),
    ]);
    text = text.slice(0, at) + middle + text.slice(end);
  }
  return random.uniform() < 0.1 ? text.slice(0, Math.floor(text.length * random.uniform())) : text;
}
