/** What was laid on what of an ordinary scene, and what was left out of the maps between: the evidence beside a filter's figures. */
import type { ColorSpace } from '../../formulas/color/spaces';
import type { OrdinaryScene } from '../../laying/ordinaryTypes';
import { REASONS } from '../../laying/ratioMap';
import { polarizes } from '../../session/polarizing';
import type { OrdinaryReadings } from '../../session/readings';
import type { Filter } from '../../session/schema';
import { areasOf } from '../polarizer/areas';
import type { SolvedFilter, SolvedScene } from '../strength/solvedScene';

/** A filter's pictures on an ordinary scene; `null` where it wasn't seen there. */
export function describeScene(
  { scene, filters }: SolvedScene,
  filter: Filter,
  space: ColorSpace,
): OrdinaryReadings | null {
  const solved = filters.get(filter.id);
  const unpaired = scene.unpaired.filter(({ take }) =>
    scene.pictures.some((one) => one.take === take && one.filter === filter.id),
  );
  if (!solved && unpaired.length === 0) return null;
  const grid = scene.pairs[0]?.map ?? { columns: 0, rows: 0 };
  return {
    scene: scene.patch.scene,
    patch: scene.patch.id,
    width: scene.width,
    height: scene.height,
    columns: grid.columns,
    rows: grid.rows,
    pairs: solved ? solved.pairs.map((at, i) => pairOf(scene, at, solved, i)) : [],
    unpaired,
    ...(solved && polarizes(filter) ? { areas: areasOf(scene, solved, space) } : {}),
  };
}

const DIGITS = REASONS.map((_, i) => String(i));
const OTHER_LIGHT = REASONS.indexOf('light');

function pairOf({ pictures, pairs }: OrdinaryScene, at: number, { channels }: SolvedFilter, own: number) {
  const { first, second, homography, agreement, errorPx, map } = pairs[at];
  const [take, bare] = [pictures[first], pictures[second]];
  const outliers = channels[1].outliers[own];
  return {
    take: take.take,
    file: take.file,
    seconds: take.seconds,
    bareTake: bare.take,
    bareFile: bare.file,
    bareSeconds: bare.seconds,
    homography: homography.map((value) => Math.round(value * 1e7) / 1e7),
    agreement: Math.round(agreement * 1e3) / 1e3,
    errorPx: Math.round(errorPx * 1e3) / 1e3,
    cells: Array.from(map.reason, (reason, cell) => DIGITS[reason === 0 && outliers[cell] ? OTHER_LIGHT : reason]).join(
      '',
    ),
  };
}
