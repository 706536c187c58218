/** @jest-environment jsdom */
/** The stop ladder: where things stand, and how one walks along it. */
import { screen } from '@testing-library/react';
import { show } from '../testing/render';
import { layOutLadder, type LadderBead } from './layout';
import { SmallLadder } from './SmallLadder';
import { StopLadder } from './StopLadder';

const bead = (id: string, label: number | null, found: number | null, more: Partial<LadderBead> = {}): LadderBead => ({
  id,
  name: id.toUpperCase(),
  labelStops: label,
  found: found === null ? null : { value: found, u95: 0.02 },
  verdict: found === null ? null : 'true',
  ...more,
});

describe('the layout', () => {
  const width = 1280;

  test('stops lie evenly from bare to the strongest, ticks at each', () => {
    const { beads, bareX, ticks } = layOutLadder([bead('a', 2, 2), bead('b', 4, 4), bead('c', 6, 6)], width);
    const [a, b, c] = beads;
    expect(b.x - a.x).toBeCloseTo(c.x - b.x, 6);
    expect(a.x - bareX).toBeCloseTo(b.x - a.x, 6);
    const whole = ticks.filter((tick) => tick.label !== null);
    expect(whole.map((tick) => tick.label)).toEqual(['0', '1', '2', '3', '4', '5', '6']);
    expect(whole[2].x).toBeCloseTo(a.x, 6);
  });

  test('a bead stands where it was found, tied to its label’s tick', () => {
    const [placed] = layOutLadder([bead('a', 4, 3.5), bead('z', 8, 8)], width).beads;
    expect(placed.x).toBeLessThan(placed.tickX!);
    expect(placed.bar![1] - placed.bar![0]).toBeGreaterThan(0);
    expect((placed.bar![0] + placed.bar![1]) / 2).toBeCloseTo(placed.x, 6);
  });

  test('before it is measured it stands at its label; without either at no tick', () => {
    const { beads } = layOutLadder([bead('a', 3, null), bead('b', null, null), bead('z', 6, null)], width);
    expect(beads.find((one) => one.id === 'a')!.bar).toBeNull();
    expect(beads.find((one) => one.id === 'b')?.tickX ?? null).toBeNull();
  });

  test('names that would collide step up, and stay in a few rows', () => {
    const close = [5, 5.05, 5.1, 5.15].map((stops, i) => bead(`nd${i}`, 5, stops));
    const { beads, rows } = layOutLadder(close, width);
    expect(new Set(beads.map((one) => one.row)).size).toBeGreaterThan(1);
    expect(rows).toBeLessThanOrEqual(3);
  });

  test('a span runs from its least to its most, with its marks on it', () => {
    const variable = bead('v', null, null, {
      labelSpan: [2, 5],
      span: { low: 1.8, high: 5.2, ticks: [1.8, 3, 4, 5.2] },
      verdict: 'close',
    });
    const [placed] = layOutLadder([variable, bead('z', 8, 8)], width).beads;
    expect(placed.line!.from).toBeLessThan(placed.line!.to);
    expect(placed.line!.ticks).toHaveLength(4);
    expect(placed.line!.open).toBe(false);
    expect(placed.threads).toHaveLength(2);
    // A darkest that is not known has no end: it must not draw the rule without end.
    const endless = bead('p', null, null, { span: { low: 1.5, high: Infinity, ticks: [] }, verdict: 'true' });
    expect(layOutLadder([endless, bead('z', 4, 4)], width).beads.find((one) => one.id === 'p')!.line!.open).toBe(true);
  });

  test('spans that would lie on each other step down', () => {
    const span = (id: string, low: number, high: number) =>
      bead(id, null, null, { span: { low, high, ticks: [] }, verdict: 'true' });
    const { beads } = layOutLadder([span('a', 1, 5), span('b', 2, 6)], width);
    expect(new Set(beads.map((one) => one.lane)).size).toBe(2);
  });

  test('narrow pages are laid out all the same', () => {
    const { beads, right } = layOutLadder([bead('a', 2, 2.1), bead('b', 10, 9.6)], 320);
    for (const one of beads) expect(one.x).toBeLessThanOrEqual(right + 1);
  });
});

describe('on the page', () => {
  const beads = [bead('nd4', 2, 2.1), bead('nd8', 3, 2.9), bead('nd16', 4, null)];

  test('each bead is a button that says what was found of what label', () => {
    show(<StopLadder beads={beads} selected="nd8" onSelect={jest.fn()} />);
    expect(screen.getByRole('button', { name: 'ND4: found 2.10 ±0.02 stops, label 2.00 stops, true' })).toBeTruthy();
    expect(screen.getByRole('button', { name: /^ND16: label 4.00 stops, not measured/ })).toBeTruthy();
    expect(screen.getByRole('button', { name: /^ND8/ }).getAttribute('aria-pressed')).toBe('true');
  });

  test('one is in the way of Tab; arrows walk along it', async () => {
    const chosen = jest.fn();
    const { user } = show(<StopLadder beads={beads} selected="nd8" onSelect={chosen} />);
    await user.tab();
    expect(document.activeElement).toBe(screen.getByRole('button', { name: /^ND8/ }));
    await user.keyboard('{ArrowRight}');
    expect(chosen).toHaveBeenLastCalledWith('nd16');
    await user.keyboard('{ArrowLeft}{ArrowLeft}');
    expect(chosen).toHaveBeenLastCalledWith('nd4');
  });

  test('halves of a graduated filter and a labelled range are told as such', () => {
    const graduated = bead('g', 3, null, { span: { low: 0.1, high: 2.9, ticks: [], halves: true }, verdict: 'true' });
    const variable = bead('v', null, null, {
      span: { low: 1.8, high: 5.2, ticks: [] },
      labelSpan: [2, 5],
      verdict: 'off',
    });
    show(<StopLadder beads={[graduated, variable]} selected={null} onSelect={jest.fn()} />);
    expect(screen.getByRole('button', { name: /^G: halves of 0.10 and 2.90 stops/ })).toBeTruthy();
    expect(
      screen.getByRole('button', { name: /^V: from 1.80 to 5.20 stops, label 2.00 to 5.00 stops, off/ }),
    ).toBeTruthy();
  });

  test('the small one is a picture', () => {
    const { container } = show(<SmallLadder beads={beads} />);
    expect(container.querySelectorAll('svg').length).toBeGreaterThan(0);
  });
});
