/** Slips of the hand: worked examples. Strengths are log2 of shutters over log2 of light, so a shutter noted 4 times too long is two stops too many. */
import { parseSession } from '../session/parse';
import type { Readings } from '../session/readings';
import { slipsOf } from './slips';

const take = (id: string, filter: string | null, shutter: string) => ({ id, filter, scene: 'chart', files: [`${id}.png`], exposure: { shutter } }); // prettier-ignore
const bench = () =>
  parseSession({
    format: 'aurora-glade-session',
    version: 1,
    kits: [
      {
        id: 'kit',
        filters: [
          { id: 'nd4', name: 'ND4', kind: 'nd', nominal: { ndFactor: 4 } },
          { id: 'nd8', name: 'ND8', kind: 'nd', nominal: { ndFactor: 8 } },
        ],
      },
    ],
    scenes: [{ id: 'chart', kind: 'chart' }],
    takes: [
      take('bare-1', null, '1/2000'),
      take('nd4', 'nd4', '1/500'),
      take('nd8', 'nd8', '1/250'),
      take('bare-2', null, '1/2000'),
    ],
  });

/** ND4 and ND8, off their labels (2 and 3 stops) by so much. */
function slips(nd4: number, nd8: number, u95 = 0.01, session = bench()) {
  const of = (filter: string, nominalStops: number, value: number) => ({
    filter,
    nominalStops,
    density: { error: { value, u95 } },
  });
  return slipsOf(session, { filters: [of('nd4', 2, nd4), of('nd8', 3, nd8)] } as unknown as Readings);
}

test('off by no whole stops: nothing is asked', () => {
  expect(slips(0.02, -0.3)).toEqual([]);
  expect(slips(0.4, 1.2)).toEqual([]);
});

test('exactly two stops off: the shutter is asked for, and put right in its take', () => {
  const [slip, ...more] = slips(0.02, 2.03);
  expect(more).toEqual([]);
  expect(slip.question).toBe('ND8 is exactly 2 stops off: was the shutter 1/1000 s and not 1/250 s?');
  expect(slip.answer).toBe('Yes, it was 1/1000 s');
  expect(slip.edits).toEqual([{ id: 'nd8', seen: { shutter: '1/250' }, to: { shutter: '1/1000' } }]);
});

test('a strength too small has a shutter noted too short', () => {
  expect(slips(-1, 0.1)[0].question).toBe('ND4 is exactly 1 stop off: was the shutter 1/250 s and not 1/500 s?');
});

test('a ± that spans whole stops asks, one that doesn’t does not', () => {
  expect(slips(0, 0.9, 0.12)).toHaveLength(1);
  expect(slips(0, 0.9, 0.05)).toEqual([]);
  // Half a stop of ± spans whole stops wherever the error lies.
  expect(slips(0, 0.6, 0.5)).toEqual([]);
});

test('all off alike: the bare pictures are asked about, all of them', () => {
  const [slip] = slips(-1.01, -0.99);
  expect(slip.question).toBe(
    'These filters are exactly 1 stop off: was the shutter of the bare pictures 1/4000 s and not 1/2000 s (and so on, 2 takes)?',
  );
  expect(slip.edits.map((one) => one.id)).toEqual(['bare-1', 'bare-2']);
});

test('labels that fit when exchanged: the takes are exchanged, and no shutter is suspected', () => {
  const [slip, ...more] = slips(1, -1);
  expect(more).toEqual([]);
  expect(slip.question).toBe('ND4 and ND8 fit each other’s labels: were they exchanged?');
  expect(slip.edits).toEqual([
    { id: 'nd4', seen: { filter: 'nd4' }, to: { filter: 'nd8' } },
    { id: 'nd8', seen: { filter: 'nd8' }, to: { filter: 'nd4' } },
  ]);
});

test('shutters that the files tell are no slip of a hand', () => {
  const session = bench();
  for (const take of session.takes) delete take.exposure.shutter;
  expect(slips(0, 2, 0.01, session)).toEqual([]);
});
