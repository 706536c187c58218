/** A filter's own fall of light where a gray card would stand: what strength from a wall's middle leaves open. */
import { luminanceRow, type ColorSpace } from '../../formulas/color/spaces';
import { mean } from '../../formulas/statistics/averages';
import type { ObservedPatch } from '../../reading/observations';
import type { PreparedPatch } from '../strength/preparedPatch';
import { fieldPair } from './estimateShading';
import { placeOf } from './radial';
import { strengthMap } from './shadingMap';

/** Radius of a card in the middle of the frame, half diagonals. Our own judgement. */
const CARD = 0.25;

/** Mean luminous stops within {@link CARD} above those of the field's middle square; 0 where the filter has no field. */
export function fallNearCenter(
  field: Pick<ObservedPatch, 'patch' | 'fields'>,
  place: PreparedPatch,
  filter: string,
  space: ColorSpace,
): number {
  const pair = fieldPair(field, place, filter);
  if (!pair || 'withheld' in pair) return 0;
  const luminance = luminanceRow(space);
  const { columns, rows, channels } = strengthMap(pair.filtered, pair.bare, luminance);
  const shape = pair.filtered[0].field;
  const near = Array.from(channels[0].keys()).filter((i) => Math.hypot(...placeOf(i, columns, rows, shape)) <= CARD);
  return mean(
    near.map((i) => -Math.log2(luminance.reduce((sum, weight, c) => sum + weight * 2 ** -channels[c][i], 0))),
  );
}
