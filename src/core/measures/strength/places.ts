/** One patch of one scene: which pictures of it are usable, how the light moved, what is wrong with it. */
import { preparePatch, type PatchSeries } from './patchStrength';
import type { PatchSample, ObservedPatch } from '../../reading/observations';
import { repeatRange } from './repeats';
import { byTake, CLIPPED_SHARE, percent } from '../../reading/byTake';
import type { ResolvedResponse } from '../../light/response';
import { fault } from '../../words/faults';
import type { Fault } from '../../session/readings';
import type { Session } from '../../session/schema';
import type { Contribution } from '../../formulas/statistics/budget';

/** Share of pixels at code 0 from which darkness is worth a word. */
const DARK_SHARE = 0.01;
/** A response that is off by more than this over the session's exposures is told, in stops. Our own judgement. */
const MISFIT_STOPS = 0.05;
/** With more than this at code 0 nothing is left to estimate a mean from. */
const MOSTLY_BLACK = 0.5;
/** Repeats farther apart than this, and than six times their noise, are asked about. Our own judgement, in stops. */
const REPEATS_APART = 0.05;

export interface Place {
  patch: ObservedPatch['patch'];
  series: PatchSeries | null;
  /** Filters with samples here, usable or not. */
  seen: Set<string>;
  faults: { filter: string | null; fault: Fault }[];
  /** What makes its strengths uncertain beside its series. */
  extra?: Contribution[];
}

/**
 * One patch: leaves out clipped and black pictures, names what is wrong with the light and the repeats.
 *
 * @param tellsLight whether it speaks for the light of its scene: one patch a scene is enough
 */
export function preparePlace(
  { patch, samples, bracket }: ObservedPatch,
  session: Session,
  recovered: ResolvedResponse | null,
  tellsLight = true,
): Place {
  const faults: Place['faults'] = [];
  const usable: PatchSample[] = [];
  for (const pictures of byTake(samples).values()) {
    const problems = pictures.map((sample) => problemOf(sample, patch.id));
    usable.push(...pictures.filter((_, i) => problems[i]?.severity !== 'error'));
    // One note a take and kind of problem: the worst of its pictures speaks for the others.
    for (const severity of ['error', 'warning'] as const) {
      const own = problems
        .flatMap((one) => (one?.severity === severity ? [one] : []))
        .sort((x, y) => y.share - x.share);
      if (own.length === 0) continue;
      const { code, share, words } = own[0];
      const { take, filter } = pictures[0];
      const many = own.length > 1 ? ` So are ${own.length - 1} more of its ${pictures.length} pictures.` : '';
      const text = `${take}: ${words(percent(share))}${many}`;
      faults.push({ filter, fault: fault(code, severity, [take], text) });
    }
  }
  const series = preparePatch(usable, session.rig.shutterMarks === 'nominal', recovered?.covariance);
  if (series) {
    if (tellsLight) faults.push(...lightFaults(series, patch.scene));
    faults.push(...repeatFaults(series, usable));
  }
  faults.push(...whiteBalanceFaults(samples, patch.scene));
  if (!recovered)
    faults.push(
      ...misfitFaults(
        [...usable, ...bracket.filter((one) => problemOf(one, patch.id)?.severity !== 'error')],
        patch.id,
      ),
    );
  return { patch, series, seen: new Set(samples.flatMap((sample) => sample.filter ?? [])), faults };
}

interface Problem {
  code: 'clipped' | 'too-dark';
  severity: 'error' | 'warning';
  /** Of the patch's pixels. */
  share: number;
  words: (percent: string) => string;
}

/** What keeps a picture's patch from being used, or is worth a word. */
function problemOf({ statistics: { topShare, zeroShare, mean } }: PatchSample, patch: string): Problem | null {
  const clipped = Math.max(...topShare);
  const black = Math.max(...zeroShare);
  if (clipped > CLIPPED_SHARE)
    return {
      code: 'clipped',
      severity: 'error',
      share: clipped,
      words: (share) => `${share} of “${patch}” is clipped, so its level is not known; the picture is left out.`,
    };
  if (black > MOSTLY_BLACK || mean.some((light) => !(light > 0)))
    return {
      code: 'too-dark',
      severity: 'error',
      share: black,
      words: (share) => `${share} of “${patch}” is black in one channel; the picture is left out.`,
    };
  if (black > DARK_SHARE)
    return {
      code: 'too-dark',
      severity: 'warning',
      share: black,
      words: (share) => `${share} of “${patch}” is at code 0; what lies below is estimated and adds to the ±.`,
    };
  return null;
}

/** What is wrong with the light of a scene, by its bare takes. */
export function lightFaults(series: PatchSeries, scene: string): Place['faults'] {
  const { trend, difference, levels, jumpAfter } = series.bare;
  if (!trend) return [];
  const takes = levels.flatMap((level) => level.takes);
  if (trend === 'light-drifted')
    return [
      {
        filter: null,
        fault: fault(
          trend,
          'warning',
          takes,
          `The light drifted by ${difference.toFixed(2)} stop over the bare takes of “${scene}”; what interpolation can’t follow is in the ±.`,
        ),
      },
    ];
  const [from, to] = [levels[jumpAfter ?? 0].takes.join(', '), levels[(jumpAfter ?? 0) + 1].takes.join(', ')];
  return [
    {
      filter: null,
      fault: fault(
        trend,
        'warning',
        [from, to],
        `The light jumped by ${difference.toFixed(2)} stop between ${from} and ${to} of “${scene}”; takes between them are suspect and their ± covers the jump.`,
      ),
    },
  ];
}

/** Repeats of a take that lie further apart than their noise. */
export function repeatFaults(series: PatchSeries, usable: readonly PatchSample[]): Place['faults'] {
  const filterOf = new Map(usable.map((sample) => [sample.take, sample.filter]));
  const clips = new Set(usable.flatMap((sample) => (sample.frame ? sample.take : [])));
  return series.groups.flatMap((group) => {
    const range = repeatRange(group);
    const noise = Math.sqrt(Math.max(...group.noise.map((one) => Math.max(one[0], one[4], one[8]))));
    if (group.levels.length < 2 || range < REPEATS_APART || range < 6 * noise) return [];
    return [
      {
        filter: filterOf.get(group.take) ?? null,
        fault: clips.has(group.take)
          ? fault(
              'exposure-moved',
              'warning',
              [group.take],
              `${group.take}: its frames lie ${range.toFixed(2)} stop apart. The exposure or the light moved inside the clip, and nothing says how; the ± covers the scatter.`,
            )
          : fault(
              'repeats-disagree',
              'warning',
              [group.take],
              `The repeats of ${group.take} lie ${range.toFixed(2)} stop apart, far more than their noise.`,
            ),
      },
    ];
  });
}

/**
 * Whether the chosen response fits: one surface through one filter (or none) must come out alike at every exposure. Told from
 * pictures a stop or more apart; what the light itself moved between equal exposures is allowed for.
 */
function misfitFaults(samples: readonly PatchSample[], patch: string): Place['faults'] {
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
    const words = `“${patch}” comes out ${misfit.toFixed(2)} stop different over exposures ${span.toFixed(1)} stops apart: the chosen response doesn’t fit these files.`;
    return [{ filter, fault: fault('response-misfit', 'warning', takes, words) }];
  });
}

/** A white balance that differs between bare and filter, or that the camera chose, is a cast of the camera's. */
export function whiteBalanceFaults(samples: readonly PatchSample[], scene: string): Place['faults'] {
  const bares = samples.filter((sample) => sample.filter === null);
  const filtered = samples.filter((sample) => sample.filter !== null);
  const settings = (source: 'said' | 'own') => new Set(bares.flatMap((sample) => sample.whiteBalance?.[source] ?? []));
  // The session calls it “daylight”, the file “manual”: each is compared with its own kind.
  const bare = { said: settings('said'), own: settings('own') };
  const moved = filtered.flatMap((sample): Place['faults'] => {
    const source = sample.whiteBalance?.said != null && bare.said.size > 0 ? 'said' : 'own';
    const setting = sample.whiteBalance?.[source] ?? null;
    if (setting === null || bare[source].size === 0 || bare[source].has(setting as string)) return [];
    const words = `${sample.take} was shot at white balance “${setting}”, the bare takes of “${scene}” at “${[...bare[source]].join(', ')}”: its cast is withheld.`;
    return [{ filter: sample.filter, fault: fault('white-balance-moved', 'error', [sample.take], words) }];
  });
  const automatic = filtered.filter(
    ({ whiteBalance }) => (whiteBalance?.said ?? null) === null && whiteBalance?.own === 'auto' && bare.own.has('auto'),
  );
  if (automatic.length === 0) return moved;
  const words = `The white balance of “${scene}” was automatic: the camera may have taken out a part of each cast, or added one.`;
  const takes = automatic.map((sample) => sample.take);
  return [...moved, { filter: null, fault: fault('white-balance-moved', 'warning', takes, words) }];
}
