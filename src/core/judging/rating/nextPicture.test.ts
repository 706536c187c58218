import type { FilterReadings, Readings } from '../../session/readings';
import { nextPicture } from './nextPicture';

type Part = Partial<FilterReadings>;
const line = (source: string, share: number) => ({ source, u: 0.1, share, degreesOfFreedom: null });
const strength = (u95: number, source: string, share: number): Part => ({
  density: {
    stops: { value: 3, u95 },
    budget: [line(source, share), line('noise', 1 - share)],
  } as unknown as FilterReadings['density'],
});
const cast = (u95: number, source: string): Part => ({
  cast: { deltaE00: { value: 1, u95 }, budget: [line(source, 0.75)] } as unknown as FilterReadings['cast'],
});
const filters = (...parts: Part[]): Pick<Readings, 'filters'> => ({
  filters: parts.map((part, i) => ({ filter: `f${i}`, faults: [], ...part }) as unknown as FilterReadings),
});

test('the ± that is most of its first bound speaks, with what it would be without its largest part', () => {
  // 0.12 of a third of a stop is 36 %; ΔE00 0.4 of 1 is 40 %.
  const found = nextPicture(filters(strength(0.12, 'response', 0.91), cast(0.4, 'compression')));
  expect(found).toMatchObject({ kind: 'narrow', filter: 'f1', figure: 'cast', share: 0.75 });
  expect(found!.kind === 'narrow' && found!.without).toBeCloseTo(0.2, 12);
  const other = nextPicture(filters(strength(0.12, 'response', 0.75), cast(0.3, 'compression')));
  expect(other).toMatchObject({ filter: 'f0', figure: 'strength', what: 'the camera’s response' });
  expect(other!.kind === 'narrow' && other!.how).toContain('one and three stops darker');
});

test('narrow ones, and those that nothing shot would narrow, ask for nothing', () => {
  expect(nextPicture(filters(strength(0.05, 'noise', 1), cast(0.2, 'noise')))).toBeNull();
  expect(nextPicture(filters(strength(0.3, 'method', 0.9)))).toBeNull();
  expect(nextPicture(filters())).toBeNull();
});

test('figures that are withheld come first, by the remedy that helps most of them', () => {
  const withheld = (remedy: string): Part => ({
    faults: [{ code: 'x', severity: 'error', takes: [], message: '', remedy }],
  });
  const found = nextPicture(
    filters(strength(0.3, 'noise', 1), withheld('Shoot A.'), withheld('Shoot B.'), withheld('Shoot B.')),
  );
  expect(found).toEqual({ kind: 'withheld', filters: ['f2', 'f3'], remedy: 'Shoot B.' });
  // Of one filter two figures, of another one: three for the first remedy, though fewer filters lack a strength.
  const [a, b] = [withheld('Shoot A.').faults!, withheld('Shoot B.').faults!];
  const many = nextPicture(
    filters({ ...strength(0.1, 'noise', 1), faults: [...a, ...a] }, { faults: a }, { faults: b }),
  );
  expect(many).toEqual({ kind: 'withheld', filters: ['f0', 'f1'], remedy: 'Shoot A.' });
});
