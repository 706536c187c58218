/** Veil and ghosts of a filter on the session's flare scenes. */
import { luminanceRow } from '../../formulas/color/spaces';
import { CLIPPED_SHARE } from '../../reading/byTake';
import { responseUOfLight } from '../../light/response';
import type { FlareReadings, Reading } from '../../session/readings';
import type { Seen } from '../seen';
import { findGhosts, measureVeil, type BlackBesideNeutral } from './veil';

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
    const pairsOf = (shown: string | null): BlackBesideNeutral[] =>
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
      veilPercent: withCurve(measureVeil(front, back), [...front, ...back], response),
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

/** A veil with what a learned response leaves of black over neutral, at the picture where that is most. */
function withCurve(veil: Reading, pictures: readonly BlackBesideNeutral[], response: Seen['response']): Reading {
  const errors = pictures.map(({ black, neutral }) => {
    const lights = [[black.value, 1], [neutral.value, -1]] as const; // prettier-ignore
    const stops = responseUOfLight(response, lights, true);
    return (100 * black.value * Math.LN2 * stops) / neutral.value;
  });
  return { ...veil, u95: Math.hypot(veil.u95, 2 * Math.max(...errors)) };
}

function levelOf(
  statistics: { mean: number[]; pixelSpread: number[]; pixelCount: number },
  luminance: readonly number[],
) {
  const value = luminance.reduce((sum, weight, c) => sum + weight * statistics.mean[c], 0);
  const noise = Math.hypot(
    ...luminance.map(
      (weight, c) => (weight * statistics.mean[c] * statistics.pixelSpread[c]) / Math.sqrt(statistics.pixelCount),
    ),
  );
  return { value, relativeU: value > 0 ? noise / value : 1 };
}
