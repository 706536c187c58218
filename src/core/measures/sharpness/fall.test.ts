/** Falls of spectra drawn at random around a known one, with the chance that finite tiles and noise bring. */
import { seededNormals } from '../../formulas/statistics/seededNormals';
import { similarity } from '../../formulas/geometry/homography';
import { fallBetween, lensFall, stretchOf } from './fall';
import { FREQUENCIES, type TileSpectrum } from './tileSpectra';

const bins = FREQUENCIES.length;

/**
 * Tiles of a scene whose power falls with the frequency, seen through exp(−k f²) twice, under even noise. Chance moves a bin's common
 * power and its coherence together, as in a tile of so many frequencies a bin.
 */
function tiles(k: number, noise: number, seed: number, count = 400, slope = 2): TileSpectrum[] {
  const normal = seededNormals(seed);
  return Array.from({ length: count }, () => {
    const row = () => {
      const cross = new Float64Array(bins);
      const coherence = new Float64Array(bins);
      FREQUENCIES.forEach((f, i) => {
        const scene = (0.05 / f) ** slope * Math.exp(-2 * k * f * f);
        const frequencies = Math.max(4, 250 * f);
        cross[i] = scene + ((scene + noise) / Math.sqrt(frequencies)) * normal();
        coherence[i] = cross[i] / (scene + noise);
      });
      return { cross, coherence };
    };
    const { cross, coherence } = row();
    return { cross, coherence, crossX: row().cross, crossY: row().cross };
  });
}

test('a known fall comes back, and of the same there is none', () => {
  expect(fallBetween(tiles(4, 1e-4, 1), tiles(0, 1e-4, 2))!.k).toBeCloseTo(4, 0);
  expect(Math.abs(fallBetween(tiles(0, 1e-4, 3), tiles(0, 1e-4, 4))!.k)).toBeLessThan(0.2);
});

test('weak texture doesn’t make a filter look sharper than it is', () => {
  // A bin that chance lifts must not have the more say for it: weighed by its own coherence it would keep 0.04 too much.
  const { k } = fallBetween(tiles(4, 0.05, 5), tiles(0, 0.05, 6))!;
  const kept = (fall: number) => Math.exp(-fall * 0.25 ** 2);
  expect(Math.abs(kept(k) - kept(4))).toBeLessThan(0.02);
});

test('too few tiles tell nothing', () => {
  expect(fallBetween(tiles(2, 1e-4, 7, 2), tiles(0, 1e-4, 8, 2))).toBeNull();
  expect(fallBetween([null, null, null], tiles(0, 1e-4, 9, 3))).toBeNull();
});

describe('a lens is told from what it took', () => {
  test.each([
    [3, 2],
    [8, 2.6],
    [14, 1.8],
    [14, 2.8],
    [20, 2.3],
  ])('its own fall of %d, before a scene whose power falls by the power %d', (k, slope) => {
    const lens = lensFall(tiles(k, 1e-5, 11, 200, slope));
    expect(Math.abs(lens.k - k)).toBeLessThan(5);
    expect(lens.u).toBeLessThanOrEqual(4);
  });

  test('nothing that tells leaves what is usual', () => {
    const lens = lensFall([null, null]);
    expect(lens.k).toBeCloseTo(8, 9);
    expect(lens.u).toBeCloseTo(4.5, 9);
  });
});

test('a zoomed view: what the lens keeps less of a detail that is drawn finer is taken out', () => {
  // Bare draws the scene 4 % larger: its own lens takes less of the same detail than the filtered picture's does.
  const larger = stretchOf([similarity(1.04, 0.3, 0.1, 0)]);
  expect(larger).toBeCloseTo(1 - 1 / 1.04 ** 2, 12);
  const [lens, filter] = [12, 2];
  const filtered = tiles(lens + filter, 1e-5, 12);
  const bare = tiles(lens / 1.04 ** 2, 1e-5, 13);
  const plain = fallBetween(filtered, bare)!;
  const fall = fallBetween(filtered, bare, 2, larger)!;
  expect(plain.k - filter).toBeGreaterThan(0.7);
  expect(Math.abs(fall.k - filter)).toBeLessThan(2 * Math.hypot(fall.u, fall.zoomU));
  expect(Math.abs(fall.k - filter)).toBeLessThan(0.3);
});
