import type { FilterReadings } from '../../session/readings';
import { castInWords, judgeQualities } from './verdict';
import { judgeFilter } from './verdictByKind';
import { offBy, writeHeadline } from '../../words/headline';

const at = (value: number, u95 = 0.02) => ({ value, u95 });
const variable = (low: number, high: number) =>
  ({
    lightest: at(2 + low),
    darkest: at(5 + high),
    errors: { low: at(low), high: at(high) },
    curve: [],
    usable: [2, 5],
    sentences: [],
  }) as NonNullable<FilterReadings['variable']>;
const graduation = (dense: number, u95?: number) =>
  ({
    clearStops: at(0.05),
    denseStops: at(dense, u95),
    transition: 'soft',
    transitionWidth: at(0.3),
  }) as NonNullable<FilterReadings['graduation']>;

test('a variable filter is judged at both ends, and the worse one speaks', () => {
  const judge = (low: number, high: number) =>
    judgeFilter({ variable: variable(low, high), nominalStops: null }, { kind: 'variable-nd' }, 5);
  expect(judge(0.1, -0.2).label).toBe('true');
  expect(judge(0.1, 0.9).label).toBe('off');
  expect(judge(-0.5, 0.1).label).toBe('close');
  expect(judge(0.01, 0.9).sentence).toContain(
    'at its light end as labelled, at its dark end 0.90 stop darker than labelled',
  );
});

test('a graduated filter is judged by its dense half', () => {
  const judge = (dense: number, nominal: number | null, u95?: number) =>
    judgeFilter({ graduation: graduation(dense, u95), nominalStops: nominal }, { kind: 'graduated-nd' }, 1);
  expect(judge(2.9, 2.99).label).toBe('true');
  expect(judge(2.2, 2.99).label).toBe('off');
  expect(judge(2.9, null).label).toBe('unrated');
  expect(judge(2.9, 2.99).sentence).toContain('0.09 stop lighter than labelled.');
  expect(judge(2.98, 2.99).sentence).toContain('is as labelled.');
  // Where the ± reaches over bands, the sentence claims no more than the word beside it.
  expect(judge(2.6, 2.99, 0.77).label).toBe('true, close or off');
  expect(judge(2.6, 2.99, 0.77).sentence).toContain('is as labelled as far as ±0.77 stop can tell.');
});

test('extinction gets a word only where the interval lies inside its band', () => {
  const polarizer = (value: number, u95: number) => ({ extinctionStops: at(value, u95) });
  const judge = (value: number, u95: number) =>
    judgeFilter({ polarizer: polarizer(value, u95), nominalStops: null }, { kind: 'polarizer' }, 1).polarizer;
  expect(judge(7, 0.1)).toBe('full extinction');
  expect(judge(5.95, 0.2)).toBe('fair or full extinction');
  expect(judge(1.5, 0.1)).toBe('weak extinction');
});

test('what a filter does by design is described and not rated', () => {
  const density = { stops: at(0.12, 0.01), budget: [] } as unknown as FilterReadings['density'];
  const judge = (kind: 'diffusion' | 'color') => judgeFilter({ density, nominalStops: null }, { kind }, 2);
  expect(judge('diffusion')).toMatchObject({ label: 'unrated' });
  expect(judge('diffusion').sentence).toMatch(/takes 0.12 stops.*softens by design/);
  expect(judge('color').sentence).toMatch(/colors by design/);
  const soft = { sharpness: [{ retained: at(0.4, 0.03) }] } as unknown as Pick<FilterReadings, 'sharpness'>;
  expect(judgeQualities(soft, 'diffusion').sharpness).toBe('by design');
  expect(judgeQualities(soft, 'nd').sharpness).not.toBe('by design');
  const cast = { deltaE00: at(20), direction: 'warm' } as unknown as NonNullable<FilterReadings['cast']>;
  expect(castInWords(cast, 'color')).toBe('by design');
  expect(castInWords(cast, 'nd')).toContain('warm');
});

test('a filter that holds infrared back says what it lets through, and what can’t be seen', () => {
  const density = { stops: at(0.03, 0.01), error: at(0.03, 0.01), budget: [] } as unknown as FilterReadings['density'];
  const { sentence } = judgeFilter({ density, nominalStops: 0 }, { kind: 'infrared-cut' }, 2);
  // 2^-0.03 = 0.9794
  expect(sentence).toContain('97.9 ±0.7 %');
  expect(sentence).toContain('infrared');
  expect(sentence).not.toContain('null test');
});

test('a clear filter says what it lets through', () => {
  const density = { stops: at(0.03, 0.01), error: at(0.03, 0.01), budget: [] } as unknown as FilterReadings['density'];
  const { sentence } = judgeFilter({ density, nominalStops: 0 }, { kind: 'clear' }, 3);
  expect(sentence).toContain('It lets 97.9 ±0.7 % of the light through.');
  expect(sentence).toContain('within 0.01 stop');
});

test('the headline counts spans and halves like strengths', () => {
  const filters = [
    { filter: 'v', nominalStops: null, variable: variable(-0.4, -0.9), verdict: { label: 'off' }, faults: [] },
    { filter: 'g', nominalStops: 2.99, graduation: graduation(2.95), verdict: { label: 'true' }, faults: [] },
  ] as unknown as FilterReadings[];
  const { title, text } = writeHeadline({ filters, faults: [] } as never, (id) => id.toUpperCase());
  expect(title).toBe('V isn’t what it says');
  expect(text).toContain('V is farthest from its label, 0.90 stop lighter.');
  expect(text).not.toContain('withheld');
  expect(offBy(filters[1])).toBeCloseTo(0.04, 9);
});
