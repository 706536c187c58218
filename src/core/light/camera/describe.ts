/** What was learned of a camera's curve, as readings carry it. */
import type { FilterReadings, Readings } from '../../session/readings';
import type { ResolvedResponse } from '../response';
import type { Correction } from './corrected';
import { TELLING_STOPS } from './model';
import type { LearnedResponse } from './learn';

type Learned = NonNullable<Readings['response']['learned']>;

/** Codes of the curve for a plot, as shares of full scale; darker ones mean little. */
const [DARKEST_CODE, POINTS] = [0.02, 49];
/** The code against which the others' doubt is told. */
const MIDDLE_CODE = 0.5;

/** Code, log2 light and its u95 against the middle code's, of the green channel. */
export function curvePoints(decode: ResolvedResponse['decode'], correction: Correction): [number, number, number][] {
  return Array.from({ length: POINTS }, (_, i): [number, number, number] => {
    const code = DARKEST_CODE + ((1 - DARKEST_CODE) * i) / (POINTS - 1);
    const against = [
      [code, 1],
      [MIDDLE_CODE, -1],
    ] as const;
    const u = Math.sqrt(Math.max(0, correction.covariance([against, against, against])[4]));
    return [code, Math.log2(decode[1](code)), 2 * u];
  });
}

export function describeLearned(
  { estimate, response, correction, checkedAt }: LearnedResponse,
  filters: readonly FilterReadings[],
): Learned {
  const { automatic, adapts, localSeen, knownStops, converged } = estimate;
  const curve = curvePoints(response.decode, correction);
  const shares = filters.flatMap(({ filter, density }) => {
    const line = density?.budget?.find(({ source }) => source === 'response');
    return density && line
      ? [{ filter, ofU95: density.stops.u95 * Math.sqrt(line.share), u95: density.stops.u95 }]
      : [];
  });
  const share = shares.sort((a, b) => b.ofU95 - a.ofU95)[0];
  return {
    checked: converged && knownStops >= TELLING_STOPS,
    knownStops,
    ...(checkedAt === undefined ? {} : { check: { checkedAt } }),
    ...(share ? { share } : {}),
    curve,
    ...(adapts ? { automaticTone: { value: automatic.value, u95: 2 * automatic.u } } : {}),
    ...(localSeen ? { localTone: { value: localSeen.value, u95: 2 * localSeen.u } } : {}),
  };
}
