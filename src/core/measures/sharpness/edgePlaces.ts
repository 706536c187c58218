/** Edge patches made ready: which pictures are usable, which were shaken, whether the focus moved between bare takes. */
import type { PixelRect } from '../../reading/window';
import type { EdgeMeasurement } from './reduceEdge';
import type { ObservedPatch, Observation } from '../../reading/observations';
import { fault } from '../../words/faults';
import type { Fault } from '../../session/readings';
import type { Rect } from '../../session/schema';
import type { EdgeResponse } from './edge';
import { byTake, CLIPPED_SHARE, meanOf, percent } from '../../reading/byTake';

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
export type UsableEdge = Observation<EdgeResponse> & { pixels: PixelRect; codeStep: number };

export interface EdgeFault {
  filter: string | null;
  fault: Fault;
}

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
export function prepareEdges(gathered: readonly ObservedPatch[]): { places: EdgePlace[]; faults: EdgeFault[] } {
  const faults: EdgeFault[] = [];
  const sorted = gathered.filter(({ patch }) => patch.role === 'edge').map((one) => sortOut(one, faults));
  const shaken = shakenPictures(sorted, faults);
  const places = sorted.map((place) => {
    const usable = place.usable.filter((one) => !shaken.has(one.file));
    return { ...place, usable, scatter: scatterOf(usable) };
  });
  faults.push(...focusFaults(places));
  return { places, faults };
}

function sortOut({ patch, edges }: ObservedPatch, faults: EdgeFault[]): EdgePlace {
  const usable: UsableEdge[] = [];
  for (const [take, pictures] of byTake(edges)) {
    const refused: { file: string; reason: string }[] = [];
    for (const edge of pictures) {
      const reason = refusal(edge.value);
      if (reason === null)
        usable.push({ ...edge, value: edge.value.result as EdgeResponse, codeStep: edge.value.codeStep });
      else refused.push({ file: edge.file, reason });
    }
    if (refused.length === 0) continue;
    const [{ file, reason }] = refused;
    const what = pictures.length === 1 ? file : `${refused.length} of ${pictures.length} pictures of ${take}`;
    const words = `${what}: the edge “${patch.id}” can’t be used, ${reason}.`;
    faults.push({ filter: pictures[0].filter, fault: fault('edge-unusable', 'error', [take], words) });
  }
  return { patch: patch.id, scene: patch.scene, region: regionOf(patch.rect), usable, scatter: 1 };
}

/** The outer half of the half diagonal counts as corner. */
function regionOf({ x, y, width, height }: Rect): EdgePlace['region'] {
  return Math.hypot(x + width / 2 - 0.5, y + height / 2 - 0.5) / Math.SQRT1_2 > 0.6 ? 'corner' : 'center';
}

function refusal({ result, topShare, zeroShare, codeStep }: EdgeMeasurement): string | null {
  if (topShare > CLIPPED_SHARE) return `${percent(topShare)} of it is clipped`;
  if (zeroShare > DARK_SHARE) return `${percent(zeroShare)} of it is at code 0`;
  if (codeStep < FEWEST_CODES) return `only ${codeStep} codes lie between its dark and its bright side`;
  if ('refused' in result) return result.refused;
  if (result.contrastToNoise < LEAST_CONTRAST_TO_NOISE)
    return `its contrast is only ${result.contrastToNoise.toFixed(1)} times the noise`;
  return null;
}

/** How far repeats of one take scatter against their own u, pooled over takes; never below one. */
function scatterOf(usable: readonly UsableEdge[]): number {
  let [sum, freedom] = [0, 0];
  for (const repeats of byTake(usable).values()) {
    if (repeats.length < 2) continue;
    const mean = meanOf(repeats.map((one) => one.value.mtf50));
    sum += repeats.reduce(
      (total, { value }) => total + ((value.mtf50 - mean) / Math.max(value.u, LEAST_U * mean)) ** 2,
      0,
    );
    freedom += repeats.length - 1;
  }
  return freedom >= 4 ? Math.max(1, Math.sqrt(sum / freedom)) : 1;
}

/** Files that are softer than their sharpest repeat at most edges of the scene: the sharpest pictures speak. */
function shakenPictures(places: readonly EdgePlace[], faults: EdgeFault[]): Set<string> {
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
  const shaken = new Set<string>();
  for (const [file, { take, filter, losses: found, clear }] of losses) {
    const loss = median(found);
    if (loss < SHAKEN_SHARE || clear * 2 <= found.length) continue;
    shaken.add(file);
    const words = `${file} is softer than the sharpest repeat of ${take} by ${percent(loss)}: shaken, or out of focus. Its edges are left out.`;
    faults.push({ filter, fault: fault('soft-by-motion', 'warning', [take], words) });
  }
  return shaken;
}

/** Bare takes of a scene that differ in sharpness: nothing was on the lens, so the focus (or the camera) moved. */
function focusFaults(places: readonly EdgePlace[]): EdgeFault[] {
  return [...new Set(places.map((place) => place.scene))].flatMap((scene): EdgeFault[] => {
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
      .map(([take, list]) => ({ take, loss: 1 - median(list) }))
      .sort((a, b) => b.loss - a.loss)[0];
    if (!softest || softest.loss < FOCUS_SHARE || clear * 2 <= compared) return [];
    const words = `The bare take ${softest.take} is softer than the other bare takes of “${scene}” by ${percent(softest.loss)}: the focus or the camera moved while nothing was on the lens. The ± of sharpness covers it.`;
    return [{ filter: null, fault: fault('focus-moved', 'warning', [softest.take], words) }];
  });
}

function levelOf(repeats: readonly UsableEdge[]) {
  return {
    mtf50: meanOf(repeats.map((one) => one.value.mtf50)),
    u: Math.sqrt(repeats.reduce((sum, one) => sum + one.value.u ** 2, 0)) / repeats.length,
  };
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[sorted.length >> 1] ?? 0;
}
