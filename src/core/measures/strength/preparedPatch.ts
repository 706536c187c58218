/** One patch of one scene: which pictures of it are usable, how the light moved, what is wrong with it. */
import type { Contribution } from '../../formulas/statistics/budget';
import type { ResolvedResponse } from '../../light/response';
import type { MeasuredPatch } from '../../reading/asked';
import { byTake, CLIPPED_SHARE } from '../../reading/byTake';
import type { FoundFault, ObservedPatch, PatchSample } from '../../reading/observations';
import type { Session } from '../../session/schema';
import {
  badLevels,
  framesApart,
  leavesOut,
  lightDrifted,
  lightJumped,
  repeatsApart,
  whiteBalanceAutomatic,
  whiteBalanceDiffers,
  type LevelProblem,
} from '../../words/light';
import { responseMisfit } from '../../words/response';
import { seriesOfSamples, type PatchSeries } from './patchStrength';
import { repeatRange } from './repeats';

/** Share of pixels at code 0 from which darkness is worth a word. */
const DARK_SHARE = 0.01;
/** A response that is off by more than this over the session's exposures is told, in stops. Our own judgement. */
const MISFIT_STOPS = 0.05;
/** With more than this at code 0 nothing is left to estimate a mean from. */
const MOSTLY_BLACK = 0.5;
/** Repeats farther apart than this, and than six times their noise, are asked about. Our own judgement, in stops. */
const REPEATS_APART = 0.05;

export interface PreparedPatch {
  patch: MeasuredPatch;
  /** `null` without a usable bare picture. */
  series: PatchSeries | null;
  /** Filters with samples here, usable or not. */
  seen: Set<string>;
  faults: FoundFault[];
  /** What makes its strengths uncertain beside its series. */
  extra?: Contribution[];
}

/**
 * One patch: leaves out clipped and black pictures, names what is wrong with the light and the repeats.
 *
 * @param tellsLight whether it speaks for the light of its scene: one patch a scene is enough
 */
export function preparePatch(
  { patch, samples, bracket }: ObservedPatch,
  session: Session,
  recovered: ResolvedResponse | null,
  tellsLight = true,
): PreparedPatch {
  const faults = levelFaults(samples, patch.id);
  const usable = [...byTake(samples).values()].flat().filter(isUsable);
  const series = seriesOfSamples(usable, session.rig.shutterMarks === 'nominal', recovered);
  if (series) {
    if (tellsLight) faults.push(...lightFaults(series, patch.scene));
    faults.push(...repeatFaults(series, usable));
  }
  faults.push(...whiteBalanceFaults(samples, patch.scene));
  if (!recovered) faults.push(...misfitFaults([...usable, ...bracket.filter(isUsable)], patch.id));
  return { patch, series, seen: new Set(samples.flatMap((sample) => sample.filter ?? [])), faults };
}

/** One note a take and severity: the worst of its pictures speaks for the others. */
function levelFaults(samples: readonly PatchSample[], patch: string): FoundFault[] {
  return [...byTake(samples).values()].flatMap((pictures) =>
    [true, false].flatMap((leftOut) => {
      const own = pictures
        .flatMap((sample) => problemOf(sample) ?? [])
        .filter(({ problem }) => leavesOut(problem) === leftOut)
        .sort((x, y) => y.share - x.share);
      if (own.length === 0) return [];
      const [{ take, filter }] = pictures;
      const [{ problem, share }] = own;
      return [{ filter, fault: badLevels(problem, { take, patch, share, count: own.length, of: pictures.length }) }];
    }),
  );
}

function isUsable(sample: PatchSample): boolean {
  const found = problemOf(sample);
  return !found || !leavesOut(found.problem);
}

/** What keeps a picture's patch from being used, or is worth a word, with the share of its pixels. */
function problemOf({
  statistics: { topShare, zeroShare, mean },
}: PatchSample): { problem: LevelProblem; share: number } | null {
  const clipped = Math.max(...topShare);
  const black = Math.max(...zeroShare);
  if (clipped > CLIPPED_SHARE) return { problem: 'clipped', share: clipped };
  if (black > MOSTLY_BLACK || mean.some((light) => !(light > 0))) return { problem: 'black', share: black };
  return black > DARK_SHARE ? { problem: 'dark', share: black } : null;
}

/** What is wrong with the light of a scene, by its bare takes. */
export function lightFaults(series: PatchSeries, scene: string): FoundFault[] {
  const { trend, difference, levels, jumpAfter } = series.bare;
  if (!trend) return [];
  if (trend === 'light-drifted') {
    const takes = levels.flatMap((level) => level.takes);
    return [{ filter: null, fault: lightDrifted(takes, scene, difference) }];
  }
  const [before, after] = [0, 1].map((i) => levels[(jumpAfter ?? 0) + i].takes.join(', '));
  return [{ filter: null, fault: lightJumped([before, after], scene, difference) }];
}

/** Repeats of a take that lie further apart than their noise. */
export function repeatFaults(series: PatchSeries, usable: readonly PatchSample[]): FoundFault[] {
  const filterOf = new Map(usable.map((sample) => [sample.take, sample.filter]));
  const clips = new Set(usable.flatMap((sample) => (sample.frame ? sample.take : [])));
  return series.groups.flatMap((group) => {
    const { take } = group;
    const range = repeatRange(group);
    const noise = Math.sqrt(Math.max(...group.noise.map((one) => Math.max(one[0], one[4], one[8]))));
    if (group.levels.length < 2 || range < REPEATS_APART || range < 6 * noise) return [];
    const fault = clips.has(take) ? framesApart(take, range) : repeatsApart(take, range);
    return [{ filter: filterOf.get(take) ?? null, fault }];
  });
}

/**
 * Whether the chosen response fits: one surface through one filter (or none) must come out alike at every exposure. Told from
 * pictures a stop or more apart; what the light itself moved between equal exposures is allowed for.
 */
function misfitFaults(samples: readonly PatchSample[], patch: string): FoundFault[] {
  const filters = new Set(samples.map((sample) => sample.filter));
  const settings = [...filters].flatMap((filter) => {
    const all = samples.filter((sample) => sample.filter === filter && !sample.inSeries);
    // A polarizer at another angle, a variable filter at another mark is another surface.
    return [...new Set(all.map((sample) => sample.setting ?? ''))].map((setting) => ({
      filter,
      own: all.filter((sample) => (sample.setting ?? '') === setting),
    }));
  });
  return settings.flatMap(({ filter, own }) => {
    const byExposure = new Map<number, number[]>();
    for (const { exposureLog2, statistics } of own) {
      const key = Math.round(exposureLog2 * 100) / 100;
      byExposure.set(key, [...(byExposure.get(key) ?? []), Math.log2(statistics.mean[1]) - exposureLog2]);
    }
    const exposures = [...byExposure.keys()];
    const span = Math.max(...exposures) - Math.min(...exposures);
    if (!(span >= 1)) return [];
    const range = (values: number[]) => Math.max(...values) - Math.min(...values);
    const means = [...byExposure.values()].map((values) => values.reduce((sum, one) => sum + one, 0) / values.length);
    const light = Math.max(...[...byExposure.values()].map(range));
    const misfit = range(means) - light;
    if (misfit < MISFIT_STOPS) return [];
    const takes = own.map((sample) => sample.take);
    return [{ filter, fault: responseMisfit(takes, patch, misfit, span) }];
  });
}

/** A white balance that differs between bare and filter, or that the camera chose, is a cast of the camera's. */
export function whiteBalanceFaults(samples: readonly PatchSample[], scene: string): FoundFault[] {
  const bares = samples.filter((sample) => sample.filter === null);
  const filtered = samples.filter((sample) => sample.filter !== null);
  const settings = (source: 'said' | 'own') => new Set(bares.flatMap((sample) => sample.whiteBalance?.[source] ?? []));
  // The session calls it “daylight”, the file “manual”: each is compared with its own kind.
  const bare = { said: settings('said'), own: settings('own') };
  const moved = filtered.flatMap((sample): FoundFault[] => {
    const source = sample.whiteBalance?.said != null && bare.said.size > 0 ? 'said' : 'own';
    const setting = sample.whiteBalance?.[source] ?? null;
    if (setting === null || bare[source].size === 0 || bare[source].has(setting as string)) return [];
    const fault = whiteBalanceDiffers(sample.take, scene, setting, [...bare[source]]);
    return [{ filter: sample.filter, fault }];
  });
  const automatic = filtered.filter(
    ({ whiteBalance }) => (whiteBalance?.said ?? null) === null && whiteBalance?.own === 'auto' && bare.own.has('auto'),
  );
  if (automatic.length === 0) return moved;
  const takes = automatic.map((sample) => sample.take);
  return [...moved, { filter: null, fault: whiteBalanceAutomatic(takes, scene) }];
}
