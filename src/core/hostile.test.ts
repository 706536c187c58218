/** Hostile documents and texts, a seeded part of `npm run fuzz`: each gets a sentence or a good reading. */
import { hostileDocument, hostileText } from '../simulator/hostile';
import { describeSession } from '../simulator/session';
import { tryDocument, tryShelf, tryText } from './testing/hostileInput';
import { smallBench } from './testing/worked';

const DOCUMENT = describeSession(smallBench(), { id: 'kit', name: 'Kit' }) as Record<string, unknown>;
const TEXTS = [
  JSON.stringify(DOCUMENT),
  'TITLE "x"\nLUT_1D_SIZE 4\n0 0 0\n0.3 0.3 0.3\n0.6 0.6 0.6\n1 1 1\n',
  'code,light\n0,0\n0.5,0.2\n1,1\n',
  '1\n00:00:00,000 --> 00:00:01,000\n[iso: 100] [shutter: 1/60] [fnum: 2.8]\n',
  'kit,filter,label,price\nSet,ND8,ND8,12\nSet,VND,VND 2-5,40\n',
  'ND4 0.9 VND 2-5 ND8/PL GND0.9',
  'nd8-cpl (2).jpg\nVND_mark 3.5.mov\nohne Filter.tif',
];
const PART = 250;

test(`${PART} documents`, async () => {
  const ends = { refused: 0, read: 0 };
  for (let n = 0; n < PART; n++) ends[await tryDocument(hostileDocument(DOCUMENT, `part/${n}`))]++;
  // Both ways are gone: a generator that only makes rubbish, or only what is sound, tries little.
  expect(ends.refused).toBeGreaterThan(PART / 10);
  expect(ends.read).toBeGreaterThan(PART / 10);
});

test.each(TEXTS.map((text) => [text.slice(0, 40), text] as const))('texts like %j', (_, sound) => {
  for (let n = 0; n < PART; n++) tryText(hostileText(sound, `part/${n}`));
});

test('kits and rigs', () => {
  const kit = { id: 'k', name: 'Set', filters: [{ id: 'nd8', name: 'ND8', kind: 'nd', nominal: { ndFactor: 8 } }] };
  const rig = { camera: 'A', profiles: [{ name: 'Plain', response: { kind: 'srgb' }, bitDepth: 8 }], lenses: [] };
  for (let n = 0; n < PART; n++) for (const one of [kit, rig]) tryShelf(hostileDocument(one, `part/${n}`));
});
