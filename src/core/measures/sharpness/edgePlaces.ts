/** Edge patches made ready: which pictures are usable, which were shaken, whether the focus moved between bare takes. */
import { byTake, CLIPPED_SHARE } from '../../reading/byTake';
import { mean, upperMedian } from '../../formulas/statistics/averages';
import type { FoundFault, ObservedPatch, Observation } from '../../reading/observations';
import type { PixelRect } from '../../reading/window';
import type { Rect } from '../../session/schema';
import { bareSofter, edgeRefused, pictureShaken, type EdgeRefusal } from '../../words/sharpness';
import type { EdgeResponse } from './edge';
import type { EdgeMeasurement } from './reduceEdge';

/** Of the edge at code 0, and contrast over noise: beyond these sharpness is withheld (formats.md). */
const DARK_SHARE = 0.02;
/** An edge over fewer codes is mostly rounding. Our own judgement. */
const FEWEST_CODES = 10;
const LEAST_CONTRAST_TO_NOISE = 1.5;
/** A picture softer than its sharpest repeat by more than this share, at most edges, was shaken. Our own judgement. */
const SHAKEN_SHARE = 0.07;
/** Bare takes that differ by more than this share in sharpness say that the focus moved. Our own judgement. */
const FOCUS_SHARE = 0.06;
/** A codec can take all noise off an edge's sides; no MTF50 is known better than this share. */
const LEAST_U = 0.002;
/** A difference counts where it is this many times its standard uncertainty. */
const CLEARLY = 4;

/** One usable picture of an edge. */
export type UsableEdge = Observation<EdgeResponse> & {
  pixels: PixelRect;
  codeStep: number;
  processed: boolean;
  localTone: number;
};

/** One edge patch with its usable pictures, bare and filtered. */
export interface EdgePlace {
  patch: string;
  scene: string;
  /** Whether the patch lies in the middle of the frame or towards a corner. */
  region: 'center' | 'corner';
  usable: UsableEdge[];
  /** Scatter of repeats over what noise explains; 1 where it explains them. */
  scatter: number;
}

/** All edge patches of a session, without the pictures that were shaken. */
export function prepareEdges(patches: readonly ObservedPatch[]): { places: EdgePlace[]; faults: FoundFault[] } {
  const sorted = patches.filter(({ patch }) => patch.role === 'edge').map(sortOut);
  const shaken = shakenPictures(sorted.map(({ place }) => place));
  const files = new Set(shaken.map(({ file }) => file));
  const places = sorted.map(({ place }) => {
    const usable = place.usable.filter((one) => !files.has(one.file));
    return { ...place, usable, scatter: scatterOf(usable) };
  });
  const faults = [
    ...sorted.flatMap((one) => one.faults),
    ...shaken.map(({ filter, fault }) => ({ filter, fault })),
    ...focusFaults(places),
  ];
  return { places, faults };
}

/** The usable pictures of an edge, and why the others aren't. */
function sortOut({ patch, edges }: ObservedPatch): { place: EdgePlace; faults: FoundFault[] } {
  const usable: UsableEdge[] = [];
  const faults: FoundFault[] = [];
  for (const [take, pictures] of byTake(edges)) {
    const judged = pictures.map((edge) => ({ edge, refusal: refusalOf(edge.value) }));
    usable.push(
      ...judged
        .filter(({ refusal }) => refusal === null)
        .map(({ edge }) => ({
          ...edge,
          value: edge.value.result as EdgeResponse,
          codeStep: edge.value.codeStep,
          processed: edge.value.processed ?? false,
          localTone: edge.value.localTone ?? 0,
        })),
    );
    const refused = judged.flatMap(({ edge, refusal }) => (refusal ? [{ file: edge.file, refusal }] : []));
    if (refused.length === 0) continue;
    const told = { ...refused[0], count: refused.length, of: pictures.length };
    faults.push({ filter: pictures[0].filter, fault: edgeRefused(take, patch.id, told) });
  }
  const place = { patch: patch.id, scene: patch.scene, region: regionOf(patch.rect), usable, scatter: 1 };
  return { place, faults };
}

/** The outer half of the half diagonal counts as corner. */
function regionOf({ x, y, width, height }: Rect): EdgePlace['region'] {
  return Math.hypot(x + width / 2 - 0.5, y + height / 2 - 0.5) / Math.SQRT1_2 > 0.6 ? 'corner' : 'center';
}

function refusalOf({ result, topShare, zeroShare, codeStep }: EdgeMeasurement): EdgeRefusal | null {
  if (topShare > CLIPPED_SHARE) return { reason: 'clipped', share: topShare };
  if (zeroShare > DARK_SHARE) return { reason: 'dark', share: zeroShare };
  if (codeStep < FEWEST_CODES) return { reason: 'few codes', codes: codeStep };
  if ('refused' in result) return { reason: 'refused', words: result.refused };
  const { contrastToNoise } = result;
  return contrastToNoise < LEAST_CONTRAST_TO_NOISE ? { reason: 'noisy', contrastToNoise } : null;
}

/** How far repeats of one take scatter against their own u, pooled over takes; never below one. */
function scatterOf(usable: readonly UsableEdge[]): number {
  let [sum, freedom] = [0, 0];
  for (const repeats of byTake(usable).values()) {
    if (repeats.length < 2) continue;
    const middle = mean(repeats.map((one) => one.value.mtf50));
    sum += repeats.reduce(
      (total, { value }) => total + ((value.mtf50 - middle) / Math.max(value.u, LEAST_U * middle)) ** 2,
      0,
    );
    freedom += repeats.length - 1;
  }
  return freedom >= 4 ? Math.max(1, Math.sqrt(sum / freedom)) : 1;
}

/** Files that are softer than their sharpest repeat at most edges of the scene: the sharpest pictures speak. */
function shakenPictures(places: readonly EdgePlace[]): (FoundFault & { file: string })[] {
  const losses = new Map<string, { take: string; filter: string | null; losses: number[]; clear: number }>();
  for (const { usable } of places)
    for (const repeats of byTake(usable).values()) {
      const sharpest = [...repeats].sort((a, b) => b.value.mtf50 - a.value.mtf50)[0].value;
      if (repeats.length < 2) continue;
      for (const { file, take, filter, value } of repeats) {
        const entry = losses.get(file) ?? { take, filter, losses: [], clear: 0 };
        entry.losses.push(1 - value.mtf50 / sharpest.mtf50);
        if (sharpest.mtf50 - value.mtf50 > CLEARLY * Math.hypot(value.u, sharpest.u)) entry.clear++;
        losses.set(file, entry);
      }
    }
  return [...losses].flatMap(([file, { take, filter, losses: found, clear }]) => {
    const loss = upperMedian(found);
    if (loss < SHAKEN_SHARE || clear * 2 <= found.length) return [];
    return [{ file, filter, fault: pictureShaken(take, file, loss) }];
  });
}

/** Bare takes of a scene that differ in sharpness: nothing was on the lens, so the focus (or the camera) moved. */
function focusFaults(places: readonly EdgePlace[]): FoundFault[] {
  return [...new Set(places.map((place) => place.scene))].flatMap((scene): FoundFault[] => {
    const ratios = new Map<string, number[]>();
    let clear = 0;
    let compared = 0;
    for (const { usable } of places.filter((place) => place.scene === scene)) {
      const takes = [...byTake(usable.filter((one) => one.filter === null))];
      if (takes.length < 2) continue;
      const levels = takes.map(([take, repeats]) => ({ take, ...levelOf(repeats) }));
      const best = [...levels].sort((a, b) => b.mtf50 - a.mtf50)[0];
      const worst = [...levels].sort((a, b) => a.mtf50 - b.mtf50)[0];
      compared++;
      if (best.mtf50 - worst.mtf50 > CLEARLY * Math.hypot(best.u, worst.u)) clear++;
      for (const level of levels) ratios.set(level.take, [...(ratios.get(level.take) ?? []), level.mtf50 / best.mtf50]);
    }
    const softest = [...ratios]
      .map(([take, list]) => ({ take, loss: 1 - upperMedian(list) }))
      .sort((a, b) => b.loss - a.loss)[0];
    if (!softest || softest.loss < FOCUS_SHARE || clear * 2 <= compared) return [];
    return [{ filter: null, fault: bareSofter(softest.take, scene, softest.loss) }];
  });
}

function levelOf(repeats: readonly UsableEdge[]) {
  return {
    mtf50: mean(repeats.map((one) => one.value.mtf50)),
    u: Math.sqrt(repeats.reduce((sum, one) => sum + one.value.u ** 2, 0)) / repeats.length,
  };
}
