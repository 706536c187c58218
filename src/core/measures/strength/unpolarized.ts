/** The strength of a polarizing filter, whatever its ring stood at: light that is itself partly polarized is averaged over the turn. */
import { patchStrength, type PatchStrength } from './patchStrength';
import { takeStrengths, ownRelativeU, type TakeStrength } from './takeStrengths';
import { distinctAngles, fitRing, ringDistance } from '../polarizer/ring';
import type { Triple } from '../../reading/patchStatistics';
import { lightPolarized } from '../../words/strength';
import type { Fault } from '../../session/readings';
import type { Session } from '../../session/schema';
import type { Contribution } from '../../formulas/statistics/budget';
import { commonMode } from '../../formulas/statistics/covariance';
import { mean } from '../../formulas/statistics/averages';
import type { PreparedPatch } from './preparedPatch';

/** Differences with the ring below this are not worth a word, in stops. Our own judgement. */
const WORTH_A_WORD = 0.02;
/** Two angles this near to 90° apart average out what the light is polarized by. */
const NEARLY_CROSSED = 10;

/** Strength of a polarizing filter at one place; `null` where it has no picture there. */
export function unpolarizedStrength(
  { patch, series }: PreparedPatch,
  filter: string,
  session: Session,
  luminance: readonly number[],
): { strength: PatchStrength; fault: Fault | null } | null {
  if (!series) return null;
  const strength = patchStrength(series, filter, { scene: patch.scene, patch: patch.id, role: patch.role });
  if (!strength) return null;
  const degreesOf = new Map(session.takes.map((take) => [take.id, take.setting?.ringDegrees]));
  const noted = takeStrengths(series, filter, luminance).flatMap((take) => {
    const degrees = degreesOf.get(take.take);
    return degrees === undefined ? [] : [{ take, degrees }];
  });
  const count = noted.length === 0 ? 0 : distinctAngles(noted.map((one) => one.degrees));
  if (count < 2) return { strength, fault: null };
  const range = Math.max(...noted.map(({ take }) => take.stops)) - Math.min(...noted.map(({ take }) => take.stops));
  const noise = (4 * Math.max(...noted.map(({ take }) => ownRelativeU(take)))) / Math.LN2;
  if (range < Math.max(WORTH_A_WORD, noise)) return { strength, fault: null };
  const averaged = count >= 3 ? overTheTurn(noted) : overTwo(noted);
  const told = lightPolarized(strength.takes, patch.scene, range, averaged !== null);
  if (averaged) return { strength: { ...strength, channels: averaged }, fault: told };
  const open: Contribution = {
    source: 'polarized light',
    covariance: commonMode(range / 2),
    degreesOfFreedom: Infinity,
  };
  return { strength: { ...strength, own: [...strength.own, open] }, fault: told };
}

type Noted = { take: TakeStrength; degrees: number }[];

/** Mean of the cos² law, channel by channel. */
function overTheTurn(noted: Noted): Triple | null {
  const means = [0, 1, 2].map((c) => {
    const fit = fitRing(
      noted.map(({ take, degrees }) => ({
        degrees,
        ratio: 2 ** -take.channels[c],
        relativeU: ownRelativeU(take),
      })),
    );
    return fit?.mean ?? NaN;
  });
  return means.every(Number.isFinite) ? (means as Triple) : null;
}

/** Mean light of two angles 90° apart. */
function overTwo(noted: Noted): Triple | null {
  const [first] = noted;
  const other = noted.find(({ degrees }) => ringDistance(degrees, first.degrees) > 90 - NEARLY_CROSSED);
  if (!other) return null;
  const near = (a: number) => noted.filter(({ degrees }) => ringDistance(degrees, a) < 45);
  const [here, there] = [near(first.degrees), near(other.degrees)];
  const light = (list: Noted, c: number) => mean(list.map(({ take }) => 2 ** -take.channels[c]));
  return [0, 1, 2].map((c) => -Math.log2((light(here, c) + light(there, c)) / 2)) as Triple;
}
