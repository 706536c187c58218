import type { BudgetLine } from '../session/readings';
import { adviseOn } from './advice';

const line = (source: string, share: number): BudgetLine => ({
  source,
  u: Math.sqrt(share),
  share,
  degreesOfFreedom: null,
});

describe('advice on a budget', () => {
  test('one source that makes most of it is named with what helps', () => {
    expect(adviseOn([line('light drift', 0.9), line('noise', 0.1)])).toBe(
      '90 % of the ± (in variance) is light that drifts. Lamps that have warmed up, or a bare take after every filter would reduce it.',
    );
  });

  test('a second one that weighs is named too', () => {
    const text = adviseOn([line('repeats', 0.6), line('rounding', 0.4)]);
    expect(text).toContain('60 % of the ±');
    expect(text).toContain('After that comes coarse codes.');
  });

  test('a ± shared by many says which is the largest', () => {
    expect(adviseOn([line('noise', 0.4), line('repeats', 0.35), line('marks', 0.25)])).toMatch(
      /^The largest part of the ±, 40 %/,
    );
  });

  test('every source that budgets name has words, and an empty budget none', () => {
    const named = [
      'noise',
      'repeats',
      'light drift',
      'marks',
      'rounding',
      'dark cut-off',
      'response',
      'places disagree',
      'zoom between views',
      'scatter of tiles',
      'pictures differ',
      'registration',
      'own fall of light',
      'fit to the scene',
      'model of the fall',
    ];
    for (const source of named) expect(adviseOn([line(source, 1)])).not.toContain(`is ${source}. More repeats would`);
    expect(adviseOn([])).toBe('');
  });
});
