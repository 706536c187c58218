/** What a verdict shows first, by hand: a walk of two filters, filmed. */
import type { Readings } from '../session/readings';
import type { Session } from '../session/schema';
import { firstMoment, momentAsked, partOfPairs, shownFirst } from './shownFirst';

const session = {
  scenes: [{ id: 'outdoor', kind: 'outdoor' }],
  takes: [
    { id: 'bare', files: ['bare.mp4'] },
    { id: 'nd8', files: ['nd8.mp4'] },
  ],
  patches: [{ id: 'middle', scene: 'outdoor', role: 'field', rect: { x: 0.25, y: 0, width: 0.5, height: 1 } }],
} as unknown as Session;
const pair = (file: string, bareFile: string) => ({ file, bareFile });
const ordinary = {
  scene: 'outdoor',
  patch: 'middle',
  pairs: [pair('nd8.mp4#t=0.1', 'bare.mp4#t=1.7'), pair('nd8.mp4#t=0.5', 'bare.mp4#t=1.9')],
};
const clip = (take: string, first: number) => ({ take, path: [[first, 0, 0]], waves: [] });
const of = (filters: unknown[]) => shownFirst(session, { filters } as unknown as Readings);

test('of pairs the first, in the part that is measured; of clips the first moment that is told of', () => {
  const part = { x: 0.25, y: 0, width: 0.5, height: 1 };
  const motion = { ...clip('nd8', 0.104), bare: clip('bare', 0.2) };
  expect(of([{ ordinary: [ordinary], motion }])).toEqual([
    { kind: 'frame', file: 'nd8.mp4#t=0.1', part },
    { kind: 'frame', file: 'bare.mp4#t=1.7', part },
    { kind: 'moment', file: 'bare.mp4', seconds: 0.2 },
    { kind: 'moment', file: 'nd8.mp4', seconds: 0.1 },
  ]);
});

test('what two filters share is there once; a filter without either shows nothing', () => {
  const motion = { ...clip('nd8', 0), bare: clip('bare', 0) };
  expect(of([{ motion }, { motion }, {}]).map(({ file }) => file)).toEqual(['bare.mp4', 'nd8.mp4']);
  // A take that is gone since has no file.
  expect(of([{ motion: { ...clip('gone', 0) } }])).toEqual([]);
  expect(of([{ ordinary: [{ ...ordinary, pairs: [] }] }])).toEqual([]);
});

test('without a patch of its own a scene is shown whole; waves come before a path', () => {
  expect(partOfPairs({ scene: 'other', patch: 'middle' }, session)).toEqual({ x: 0, y: 0, width: 1, height: 1 });
  expect(firstMoment({ path: [[2, 0, 0]], waves: [[1.5, 0]] } as never)).toBe(1.5);
  expect(firstMoment(undefined)).toBe(0);
  expect(momentAsked(0.1049)).toBe('0.10');
});
