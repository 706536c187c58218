/** Sharpness kept by a filter at each edge patch, or why it can't be told. */
import type { GatheredPatch, EdgeMeasurement, Observation } from '../gather';
import { fault, type Fault, type SharpnessReadings } from '../session';
import type { EdgeResponse } from '../sharpness';
import { combine } from '../uncertainty';
import { CLIPPED_SHARE, percent } from './places';

/** Of the edge at code 0, contrast over noise, and u95 of the ratio: beyond these sharpness is withheld (formats.md). */
const DARK_SHARE = 0.02;
/** An edge over fewer codes is mostly rounding. Our own judgement. */
const FEWEST_CODES = 10;
const LEAST_CONTRAST_TO_NOISE = 1.5;
const WIDEST_U95 = 0.12;

interface EdgeFault {
  filter: string | null;
  fault: Fault;
}

/** One edge patch with its usable pictures, bare and filtered. */
export interface EdgePlace {
  patch: string;
  scene: string;
  usable: Observation<EdgeResponse>[];
  /** Scatter of repeats over what noise explains; 1 where it explains them. */
  scatter: number;
  faults: EdgeFault[];
}

/** Sorts the pictures of an edge patch into usable and refused ones. */
export function prepareEdge({ patch, edges }: GatheredPatch): EdgePlace {
  const faults: EdgeFault[] = [];
  const usable: Observation<EdgeResponse>[] = [];
  for (const edge of edges) {
    const reason = refusal(edge.value);
    if (reason === null) usable.push({ ...edge, value: edge.value.result as EdgeResponse });
    else
      faults.push({
        filter: edge.filter,
        fault: fault(
          'edge-unusable',
          'error',
          [edge.take],
          `${edge.file}: the edge “${patch.id}” can’t be used, ${reason}.`,
        ),
      });
  }
  return { patch: patch.id, scene: patch.scene, usable, scatter: scatterOf(usable), faults };
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
function scatterOf(usable: Observation<EdgeResponse>[]): number {
  let [sum, freedom] = [0, 0];
  for (const take of new Set(usable.map((one) => one.take))) {
    const repeats = usable.filter((one) => one.take === take).map((one) => one.value);
    if (repeats.length < 2) continue;
    const mean = repeats.reduce((total, one) => total + one.mtf50, 0) / repeats.length;
    sum += repeats.reduce((total, one) => total + ((one.mtf50 - mean) / one.u) ** 2, 0);
    freedom += repeats.length - 1;
  }
  return freedom >= 4 ? Math.max(1, Math.sqrt(sum / freedom)) : 1;
}

/** The reading of one filter at a prepared edge; a fault where it is withheld; `null` where the filter wasn't seen. */
export function keptSharpness(
  place: EdgePlace,
  filter: string,
): { kept: SharpnessReadings } | { withheld: Fault } | null {
  const front = summary(
    place.usable.filter((one) => one.filter === filter),
    place.scatter,
  );
  const back = summary(
    place.usable.filter((one) => one.filter === null),
    place.scatter,
  );
  if (!front || !back) return null;
  const retained = front.mtf50 / back.mtf50;
  const uncertainty = combine([
    { source: 'noise of the filtered edge', u: (retained * front.u) / front.mtf50, degreesOfFreedom: Infinity },
    { source: 'noise of the bare edge', u: (retained * back.u) / back.mtf50, degreesOfFreedom: Infinity },
    { source: 'method', u: 0.001, degreesOfFreedom: Infinity },
  ]);
  if (uncertainty.u95 > WIDEST_U95)
    return {
      withheld: fault(
        'edge-unusable',
        'error',
        front.takes,
        `Sharpness at “${place.patch}” would be uncertain by ${uncertainty.u95.toFixed(2)}; it is withheld.`,
      ),
    };
  const kept = {
    patch: place.patch,
    scene: place.scene,
    baselineMtf50: { value: back.mtf50, u95: 2 * back.u },
    mtf50: { value: front.mtf50, u95: 2 * front.u },
    mtf20: { bare: back.mtf20, filtered: front.mtf20 },
    retained: { value: retained, u95: uncertainty.u95 },
    curves: { bare: back.curve, filtered: front.curve },
    angleDegrees: back.angleDegrees,
  };
  return { kept };
}

function summary(edges: Observation<EdgeResponse>[], scatter: number) {
  const n = edges.length;
  if (n === 0) return null;
  const mean = (pick: (edge: EdgeResponse) => number) => edges.reduce((sum, one) => sum + pick(one.value), 0) / n;
  return {
    mtf50: mean((edge) => edge.mtf50),
    mtf20: mean((edge) => edge.mtf20),
    u: (scatter * Math.sqrt(edges.reduce((sum, one) => sum + one.value.u ** 2, 0))) / n,
    curve: edges[0].value.curve.map((_, i) => Math.round(1e4 * mean((edge) => edge.curve[i])) / 1e4),
    angleDegrees: mean((edge) => edge.angleDegrees),
    takes: edges.map((one) => one.take),
  };
}
