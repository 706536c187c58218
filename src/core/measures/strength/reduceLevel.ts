/** A window reduced to its level: statistics of linear light in the session's primaries. */
import { apply, type Matrix3, type Vector3 } from '../../formulas/color/spaces';
import type { Decoding } from '../../light/decoding';
import { reducePatch, type PatchStatistics, type Triple } from '../../reading/patchStatistics';
import type { Picture } from '../../reading/window';

export function reduceLevel(window: Picture, { tables, conversion }: Decoding): PatchStatistics {
  return convertPrimaries(reducePatch(window, tables), conversion);
}

/** Linear light in the session's primaries: matrices act on means as they do on pixels. */
function convertPrimaries(statistics: PatchStatistics, matrix: Matrix3 | null): PatchStatistics {
  if (!matrix) return statistics;
  const mean = apply(matrix, statistics.mean) as unknown as Triple;
  const values = statistics.cells.values.map(
    (cells) => new Float64Array(cells.length),
  ) as PatchStatistics['cells']['values'];
  for (let cell = 0; cell < values[0].length; cell++) {
    const converted = apply(matrix, statistics.cells.values.map((cells) => cells[cell]) as unknown as Vector3);
    converted.forEach((light, c) => (values[c][cell] = light));
  }
  return { ...statistics, mean, cells: { ...statistics.cells, values } };
}
