/** Veil and ghosts of a filter on the session's flare scenes. */
import { luminanceRow } from '../../formulas/color/spaces';
import { CLIPPED_SHARE } from '../../reading/byTake';
import { luminousCompression } from '../../light/camera/compression';
import { responseUOfLight } from '../../light/response';
import type { PatchStatistics } from '../../reading/patchStatistics';
import type { FlareReadings, Reading } from '../../session/readings';
import type { Seen } from '../seen';
import { findGhosts, measureVeil, type Level } from './veil';

/** Veil and ghosts from the first flare scene that shows the filter; `null` where none does. */
export function estimateFlare(
  filter: string,
  { patches, session, space, response }: Pick<Seen, 'patches' | 'session' | 'space' | 'response'>,
): FlareReadings | null {
  const luminance = luminanceRow(space);
  for (const scene of session.scenes.filter((one) => one.kind === 'flare')) {
    const here = patches.filter(({ patch }) => patch.scene === scene.id);
    const of = (role: string) => here.find(({ patch }) => patch.role === role);
    const [black, neutral, whole] = ['black', 'neutral', 'field'].map(of);
    if (!black || !neutral) continue;
    const pairsOf = (shown: string | null): { black: CodedLevel; neutral: CodedLevel }[] =>
      black.samples
        .filter((one) => one.filter === shown)
        .flatMap((one) => {
          const beside = neutral.samples.find((sample) => sample.file === one.file);
          return beside && Math.max(...beside.statistics.topShare) <= CLIPPED_SHARE
            ? [{ black: levelOf(one.statistics, luminance), neutral: levelOf(beside.statistics, luminance) }]
            : [];
        });
    const [front, back] = [pairsOf(filter), pairsOf(null)];
    if (front.length === 0 || back.length === 0) continue;
    const fieldsOf = (shown: string | null) => (whole?.fields ?? []).filter((one) => one.filter === shown);
    const [frontFields, backFields] = [fieldsOf(filter), fieldsOf(null)];
    const [values, bareValues] = [frontFields, backFields].map((list) => list.map((one) => one.value));
    return {
      scene: scene.id,
      veilPercent: withAlike(measureVeil(front, back), [...front, ...back], response),
      patches: { black: black.patch.id, neutral: neutral.patch.id },
      ...(frontFields.length > 0 && backFields.length > 0
        ? {
            ...findGhosts(values, bareValues, luminance),
            pictures: { bare: backFields[0].file, filtered: frontFields[0].file },
          }
        : { ghosts: [] }),
    };
  }
  return null;
}

/** A level with what repeats don't average: rounding, compression, and what code 0 cut off, relative. */
interface CodedLevel extends Level {
  alikeU: number;
}

/** A veil with what a learned response and the codes leave of black over neutral, at the picture where that is most. */
function withAlike(
  veil: Reading,
  pictures: readonly { black: CodedLevel; neutral: CodedLevel }[],
  response: Seen['response'],
): Reading {
  const errors = pictures.map(({ black, neutral }) => {
    const lights = [[black.value, 1], [neutral.value, -1]] as const; // prettier-ignore
    const curve = Math.LN2 * responseUOfLight(response, lights, true);
    return ((100 * black.value) / neutral.value) * Math.hypot(curve, black.alikeU, neutral.alikeU);
  });
  return { ...veil, u95: Math.hypot(veil.u95, 2 * Math.max(...errors)) };
}

function levelOf(statistics: PatchStatistics, luminance: readonly number[]): CodedLevel {
  const { mean, rounding, zeroCorrection, pixelSpread, pixelCount, compression } = statistics;
  const shares = luminance.map((weight, c) => weight * mean[c]);
  const value = shares.reduce((sum, one) => sum + one, 0);
  const relative = (parts: readonly number[]) => parts.map((part, c) => (part * shares[c]) / value);
  return {
    value,
    relativeU: Math.hypot(...relative(pixelSpread)) / Math.sqrt(pixelCount),
    alikeU: Math.hypot(
      ...relative(rounding),
      // As in a strength: the model of what was cut off is trusted to half of what it adds.
      ...relative(zeroCorrection.map((one) => 0.5 * one)),
      Math.LN2 * luminousCompression(compression, luminance),
    ),
  };
}
