/** What was read of a place without noise, for tests that work by hand. */
import type { PatchStatistics, Triple } from '../reading/patchStatistics';

/** A place without noise whose codes are its light: every cell at its mean. */
export function flatPatch(mean: Triple): PatchStatistics {
  const values = [0, 1, 2].map((c) => new Float64Array(144).fill(mean[c])) as PatchStatistics['cells']['values'];
  const none: Triple = [0, 0, 0];
  return {
    pixelCount: 20_000,
    mean,
    zeroCorrection: none,
    topShare: none,
    zeroShare: none,
    pixelSpread: none,
    meanCode: mean,
    rounding: none,
    cells: { columns: 12, rows: 12, values },
  };
}
