/** Strengths by whole pictures: too rough to be told, good enough to see that another filter is on where the figure itself is withheld. */
import { median } from '../../formulas/statistics/averages';
import type { Reading } from '../../session/readings';
import { exposureOf, type Footage } from '../checks/check';
import { lightOf } from '../intake/look';

/** What whole pictures are off by without any doubt of the curve, stops: casts, corners, a hand in the frame. Our own judgement. */
const AT_BEST = 0.3;
/** Of the difference in brightness that two pictures have, what the curve may make of it: contrasty styles double it near black. Our own judgement. */
const BY_CURVE = 0.5;
/** Darker than this, log2 of full scale, few codes are left and the black level counts: two that are black look alike. Our own judgement. */
const DARKEST = -8;

/**
 * Rough strengths by filter, of charts and walls with a bare picture, each with the ± that it may be off by. Filters of which nothing can be said
 * are left out.
 */
export function roughStrengths(footage: Footage): Map<string, Reading> {
  const { session } = footage;
  const seen = session.takes.flatMap((take) => {
    if (take.role !== 'measure' && take.filter !== null) return [];
    return take.files.flatMap((path) => {
      const file = footage.files.get(path);
      const exposure = file && exposureOf(take, file, footage);
      if (!file?.look || exposure === null || exposure === undefined) return [];
      const [, green] = lightOf(file.look, footage.decode(file.facts), file.facts.bitDepth);
      return green > 0 ? [{ ...take, shown: Math.log2(green), exposure }] : [];
    });
  });
  const found = new Map<string, Reading[]>();
  for (const { id, kind } of session.scenes) {
    if (kind !== 'chart' && kind !== 'flat') continue;
    const bare = seen.filter((one) => one.scene === id && one.filter === null);
    const lit = bare.filter(({ role }) => role === 'measure');
    if (lit.length === 0) continue;
    const usual = {
      shown: median(lit.map(({ shown }) => shown)),
      level: median(lit.map((one) => one.shown - one.exposure)),
    };
    // Brighter ones may be clipped: two that are white would look alike.
    const darker = bare
      .map((one) => ({ shown: one.shown, level: one.shown - one.exposure }))
      .filter(({ shown }) => shown < usual.shown && shown > DARKEST);
    for (const one of seen) {
      if (one.scene !== id || one.filter === null) continue;
      // Against the bare picture that is nearest in brightness the curve can make least of it.
      const apart = (other: { shown: number }) => Math.abs(other.shown - one.shown);
      const beside = darker.reduce((best, other) => (apart(other) < apart(best) ? other : best), usual);
      const value = beside.level - (one.shown - one.exposure);
      const u95 = AT_BEST + BY_CURVE * apart(beside);
      found.set(one.filter, [...(found.get(one.filter) ?? []), { value, u95 }]);
    }
  }
  return new Map(
    [...found].map(([filter, list]) => [
      filter,
      { value: median(list.map(({ value }) => value)), u95: Math.max(...list.map(({ u95 }) => u95)) },
    ]),
  );
}
