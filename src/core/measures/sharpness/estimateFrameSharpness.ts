/** Sharpness that a filter keeps, from the spectra of an ordinary scene; blur that is the movement's is told from its own. */
import { combine } from '../../formulas/statistics/budget';
import { median } from '../../formulas/statistics/averages';
import type { OrdinaryScene } from '../../laying/ordinaryTypes';
import type { Fault, SharpnessReadings } from '../../session/readings';
import type { Filter } from '../../session/schema';
import { blurredOneWay, frameSharpnessWithheld, nothingTextured, ownPicturesDiffer } from '../../words/ordinary';
import { robustMean } from './fall';
import { processingU } from './processing';

/** A ratio less certain than this is withheld (formats.md). */
const WIDEST_U95 = 0.12;
/** Where MTFs are compared, cycles/pixel (formats.md). */
const AT = 0.25;
/** The estimator against known blurs, of the ratio: on stills, and on clips, whose codec takes and copies detail. Found on simulated walks and photographs. */
const METHOD_U = { stills: 0.015, clips: 0.018 };
/** Pictures whose fall lies within this many of their own uncertainties of the least speak: the sharpest. */
const AS_SHARP = 2;

/** What a filter keeps on an ordinary scene, or why it can't be told. */
export function estimateFrameSharpness(
  scene: OrdinaryScene,
  { id, name }: Filter,
): { sharpness?: SharpnessReadings; faults: Fault[] } {
  const falls = scene.pictures.flatMap(({ filter, fall, take }) => (filter === id && fall ? [{ ...fall, take }] : []));
  const takes = falls.map(({ take }) => take);
  const filmed = scene.pictures.some(({ filter, seconds }) => filter === id && seconds !== null);
  if (falls.length === 0) {
    const own = scene.pictures.filter((one) => one.filter === id).map(({ take }) => take);
    return { faults: [nothingTextured(own, scene.patch.scene)] };
  }
  const typical = [...falls].sort((a, b) => a.u - b.u)[falls.length >> 1].u;
  const least = [...falls].sort((a, b) => a.k - b.k)[Math.min(1, falls.length - 1)].k;
  // What most pictures differ by is chance (other tiles, other places between pixels); one that a gust shook is no part of that.
  const middle = median(falls.map((one) => one.k));
  const chance = 1.4826 * median(falls.map((one) => Math.abs(one.k - middle)));
  const sharpest = falls.filter((one) => one.k <= least + AS_SHARP * Math.hypot(one.u, typical, chance));
  const { value: k, u: scatter } = robustMean(sharpest.map((one) => one.k));
  const between = Math.max(Number.isFinite(scatter) ? scatter : 0, chance / Math.sqrt(sharpest.length));
  // Tiles of one place err alike in every picture: pictures don't make them surer without end.
  const own = typical / Math.sqrt(Math.min(3, sharpest.length));
  // What zoom leaves unsure is the lens's, of all pictures alike.
  const zoom = median(sharpest.map((one) => one.zoomU));
  const retained = Math.exp(-k * AT * AT);
  const uncertainty = combine([
    { source: 'scatter of tiles', u: retained * AT * AT * own, degreesOfFreedom: Infinity },
    { source: 'pictures differ', u: retained * AT * AT * between, degreesOfFreedom: Math.max(1, sharpest.length - 1) },
    { source: 'zoom between views', u: retained * AT * AT * zoom, degreesOfFreedom: Infinity },
    { source: 'method', u: METHOD_U[filmed ? 'clips' : 'stills'], degreesOfFreedom: Infinity },
    { source: 'processing', u: processingOf(scene, id, retained), degreesOfFreedom: Infinity },
  ]); // prettier-ignore
  if (!(uncertainty.u95 <= WIDEST_U95))
    return { faults: [frameSharpnessWithheld(takes, scene.patch.scene, uncertainty.u95)] };
  const faults: Fault[] = [];
  const kept = (fall: number) => Math.exp(-fall * AT * AT);
  const range = kept(Math.min(...falls.map((one) => one.k))) - kept(Math.max(...falls.map((one) => one.k)));
  const byChance = Math.max(4 * AT * AT * Math.hypot(typical, chance), 0.02);
  if (range > Math.max(1 - retained, 0.03) && range > byChance)
    faults.push(ownPicturesDiffer(takes, name ?? id, { range, sharpest: sharpest.length, of: falls.length }));
  const [x, y] = [robustMean(sharpest.map((one) => one.x)).value, robustMean(sharpest.map((one) => one.y)).value];
  const apart = Math.abs(kept(x) - kept(y));
  if (apart > Math.max(0.08, 3 * uncertainty.u) && 1 - Math.min(kept(x), kept(y)) > 0.05)
    faults.push(blurredOneWay(takes, name ?? id, kept(x), kept(y)));
  const sharpness = {
    patch: scene.patch.id,
    scene: scene.patch.scene,
    retained: { value: retained, u95: uncertainty.u95 },
    atFrequency: AT,
    budget: uncertainty.lines,
  };
  return { sharpness, faults };
}

/** What the camera's own drawing leaves open: more of it where filtered pictures are darker than bare ones. */
function processingOf({ pictures }: OrdinaryScene, filter: string, retained: number): number {
  const own = pictures.filter((one) => one.filter === filter);
  if (own.every(({ told }) => told === null)) return 0;
  const code = (list: OrdinaryScene['pictures']) => median(list.map((one) => Math.max(one.meanCode[1], 1e-3)));
  return processingU(retained, Math.log2(code(pictures.filter((one) => one.filter === null)) / code(own)));
}
