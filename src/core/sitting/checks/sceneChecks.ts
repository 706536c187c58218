/** Checks of a scene: its takes beside each other. */
import { duration } from '../intake/cameraClock';
import { nominalStops } from '../../session/notation';
import { meanCode, isEven, likeness, lightOf, VIEW_COLUMNS, VIEW_ROWS } from '../intake/look';
import { median } from '../../formulas/statistics/averages';
import { alignPreviews } from '../../laying/align';
import { MOST_ROTATION_DEGREES, MOST_SHIFT } from '../../laying/carry';
import type { Preview } from '../../laying/preview';
import { POLARIZED_SCENES } from '../../session/polarizing';
import type { Take } from '../../session/schema';
import type { PictureFacts } from '../../reading/facts';
import { exposureOf, type Check, type CheckedFile, type Footage } from './check';

const ALIKE = 0.8;
const BLUR = 0.6;
/** Of a picture's mean code, from which on another is as bright. */
const AS_BRIGHT = 0.8;
/** Share of clipped pixels with which little detail is left. */
const CLIPPED_SHARE = 0.2;
const ORDER_STOPS = 0.3;
/** Light may drift unseen between a take and its nearest bare, seconds. */
const FAR_FROM_BARE = 20 * 60;

/** Scenes whose pictures all show one still view; before others the camera moves on, and colors with it. */
const ONE_VIEW = new Set(['chart', 'flat']);
/** Channels of the same view differ by less from picture to picture, stops; a third of what inside a clip is told. Our own judgement. */
const TINT_STOPS = 0.08;
const TOP_SHARE = 0.01;
const LEAST_LIGHT = 0.004;

interface Seen {
  take: Take;
  path: string;
  file: CheckedFile;
  /** log2 of light at exposure 1. */
  level: number | null;
  at: number | null;
}

/** A move is told from this share of the frame's width and this turn on, where the small views agree so well. Our own judgement. */
const MOVED_SHARE = 0.004;
const MOVED_DEGREES = 0.4;
const CERTAIN = 0.8;

/** What is worth saying of a scene. */
export function ofScene(scene: string, footage: Footage): Check[] {
  const takes = footage.session.takes.filter((take) => take.scene === scene && take.role !== 'bracket');
  if (takes.length === 0) return [];
  const seen = takes.flatMap((take): Seen[] =>
    take.files.flatMap((path) => {
      const file = footage.files.get(path);
      if (!file) return [];
      const time = take.capturedAt ?? file.facts.capturedAt;
      return [{ take, path, file, level: levelOf(take, file, footage), at: time === null ? null : Date.parse(time) }];
    }),
  );
  const bare = seen.filter((one) => one.take.filter === null);
  const kind = footage.session.scenes.find((one) => one.id === scene)?.kind;
  return [
    ...ofBares(scene, takes, bare),
    ...ofViews(
      seen.filter(({ take }) => !drawsTheView(take, kind, footage)),
      bare,
    ),
    ...(ONE_VIEW.has(kind ?? '') ? ofTint(seen, footage) : []),
    ...(kind === 'flare' ? [] : ofBlur(seen)),
    ...(POLARIZED_SCENES.has(kind ?? '') ? [] : ofOrder(scene, seen, bare, footage)),
    ...ofTimes(seen, bare),
    ...ofProfiles(scene, seen),
    ...ofGainMaps(scene, seen),
  ];
}

/** Before polarized light a filter itself changes the view; so does a graduated one's line on an even surface. */
function drawsTheView({ filter }: Take, kind: string | undefined, { session }: Footage): boolean {
  if (filter === null) return false;
  const own = session.kits.flatMap((kit) => kit.filters).find(({ id }) => id === filter);
  return POLARIZED_SCENES.has(kind ?? '') || (kind === 'flat' && own?.kind === 'graduated-nd');
}

function levelOf(take: Take, file: CheckedFile, footage: Footage): number | null {
  const exposure = exposureOf(take, file, footage);
  if (!file.look || exposure === null) return null;
  const [, green] = lightOf(file.look, footage.decode(file.facts), file.facts.bitDepth);
  return green > 0 ? Math.log2(green) - exposure : null;
}

function ofBares(scene: string, takes: readonly Take[], bare: readonly Seen[]): Check[] {
  const ids = new Set(bare.map((one) => one.take.id));
  const filtered = takes.filter((take) => take.filter !== null);
  if (filtered.length === 0 || ids.size > 1) return [];
  return [
    {
      code: ids.size === 0 ? 'bare-missing' : 'bare-once',
      severity: ids.size === 0 ? 'stop' : 'look',
      takes: filtered.map((take) => take.id),
      file: bare[0]?.path ?? null,
      message:
        ids.size === 0
          ? `The scene “${scene}” has no bare take to compare with.`
          : `The scene “${scene}” has one bare take only: whether the light drifted can’t be told.`,
      advice: 'Shoot bare at the start and at the end, and after every few filters.',
      show: { kind: 'picture' },
    },
  ];
}

function ofViews(seen: readonly Seen[], bare: readonly Seen[]): Check[] {
  const reference = bare.find((one) => one.file.look);
  if (!reference?.file.look) return [];
  const look = reference.file.look;
  return seen.flatMap((one): Check[] => {
    if (one === reference || !one.file.look) return [];
    const alike = likeness(one.file.look, look);
    if (alike === null) return [];
    if (alike > ALIKE) return ofMove(one, reference);
    return [
      {
        code: 'another-view',
        severity: 'stop',
        takes: [one.take.id],
        file: one.path,
        message: `${one.path} shows another view than the bare ${reference.path}.`,
        advice:
          isEven(one.file.look) !== isEven(look)
            ? 'It looks like another scene’s picture: drag it there.'
            : 'Lay it on the take it belongs to, or shoot it again from the same place.',
        show: { kind: 'beside', file: reference.path },
      },
    ];
  });
}

/**
 * Pictures of one view through one filter at one setting, or all bare ones, have one color: where they don't, the camera's white balance moved, or
 * the light's color.
 */
function ofTint(seen: readonly Seen[], footage: Footage): Check[] {
  const first = new Map<string, { path: string; ratios: readonly number[] }>();
  return seen.flatMap(({ take, path, file }): Check[] => {
    const ratios = ratiosOf(file, footage);
    // A variable filter's color changes with its mark, a polarizer's with its ring.
    const through = JSON.stringify([take.filter, take.setting?.mark, take.setting?.ringDegrees]);
    const beside = first.get(through);
    if (!ratios) return [];
    if (!beside) {
      first.set(through, { path, ratios });
      return [];
    }
    const off = Math.max(...ratios.map((one, i) => Math.abs(one - beside.ratios[i])));
    if (off < TINT_STOPS) return [];
    return [
      {
        code: 'white-balance-moved',
        severity: 'look',
        takes: [take.id],
        file: path,
        message: `${path} is tinted against ${beside.path}, by ${off.toFixed(2)} stop between channels.`,
        advice: 'Lock the white balance to one value, keep the lamps as they are, and shoot it again.',
        show: { kind: 'beside', file: beside.path },
      },
    ];
  });
}

/** Red and blue against green over the whole frame, stops; `null` of a picture that is too dark or clipped to tell. */
function ratiosOf({ look, facts }: CheckedFile, footage: Footage): readonly number[] | null {
  if (!look || look.top > TOP_SHARE) return null;
  const [red, green, blue] = lightOf(look, footage.decode(facts), facts.bitDepth);
  if (Math.min(red, green, blue) < LEAST_LIGHT) return null;
  return [Math.log2(red / green), Math.log2(blue / green)];
}

/** A view that is the bare one's, but lies a little beside it. */
function ofMove(one: Seen, reference: Seen): Check[] {
  const { pose, correlation, hasStructure } = alignPreviews(smallView(reference), smallView(one));
  const { width, height } = reference.file.facts;
  // Cells are squares only where the frame is 3 : 2.
  const tall = height / VIEW_ROWS / (width / VIEW_COLUMNS);
  const shift = Math.hypot(pose.dx, pose.dy * tall) / width;
  const degrees = Math.abs((pose.b * 180) / Math.PI);
  if (!hasStructure || correlation < CERTAIN || (shift < MOVED_SHARE && degrees < MOVED_DEGREES)) return [];
  const far = shift > MOST_SHIFT || degrees > MOST_ROTATION_DEGREES;
  return [
    {
      code: 'view-moved',
      severity: far ? 'stop' : 'look',
      takes: [one.take.id],
      file: one.path,
      message: `${one.path} lies ${(100 * shift).toFixed(1)} % of the frame’s width${degrees < MOVED_DEGREES ? '' : ` and ${degrees.toFixed(1)}°`} beside the bare ${reference.path}.`,
      advice: far
        ? 'That is more than can be followed: shoot it again from the same place.'
        : 'Patches are carried along; still, fix the camera, and don’t touch it when changing filters.',
      show: { kind: 'beside', file: reference.path },
    },
  ];
}

/** A look's view, as registration takes it; cells are counted in pixels of the frame. */
function smallView({ file: { look, facts } }: Seen): Preview {
  return {
    width: VIEW_COLUMNS,
    height: VIEW_ROWS,
    cellPx: facts.width / VIEW_COLUMNS,
    data: Float32Array.from(look!.view, (code) => code / 255),
  };
}

/**
 * Softness is told among pictures that are as bright or brighter: in darker ones noise and the curve near black look like detail, so that beside
 * them a sharp one would seem soft. A clipped picture has lost its detail otherwise.
 */
function ofBlur(seen: readonly Seen[]): Check[] {
  const looks = seen.flatMap((one) => {
    const { look } = one.file;
    if (!look || isEven(look) || look.top > CLIPPED_SHARE) return [];
    return [{ ...one, look, mean: meanCode(look) }];
  });
  return looks.flatMap((one): Check[] => {
    const beside = looks.filter((other) => other !== one && other.mean >= AS_BRIGHT * one.mean);
    if (beside.length < 2) return [];
    const usual = { x: median(beside.map(({ look }) => look.detail.x)), y: median(beside.map(({ look }) => look.detail.y)) }; // prettier-ignore
    const share = { x: one.look.detail.x / usual.x, y: one.look.detail.y / usual.y };
    if (Math.min(share.x, share.y) >= BLUR) return [];
    const direction = share.x < 0.7 * share.y ? ' across' : share.y < 0.7 * share.x ? ' up and down' : '';
    const sharpest = beside.reduce((a, b) =>
      b.look.detail.x + b.look.detail.y > a.look.detail.x + a.look.detail.y ? b : a,
    );
    return [
      {
        code: 'blurred',
        severity: 'look',
        takes: [one.take.id],
        file: one.path,
        message: `${one.path} is much softer${direction} than the others of its scene.`,
        advice: 'A shake or a lost focus: leave it out if it is a repeat, or shoot it again.',
        show: { kind: 'beside', file: sharpest.path },
      },
    ];
  });
}

function ofOrder(scene: string, seen: readonly Seen[], bare: readonly Seen[], { session }: Footage): Check[] {
  const levels = bare.flatMap((one) => one.level ?? []);
  if (levels.length === 0) return [];
  const reference = median(levels);
  const strengths = session.kits.flatMap((kit) =>
    kit.filters.flatMap((filter) => {
      const nominal = nominalStops(filter.nominal);
      const own = seen.filter((one) => one.take.filter === filter.id && one.level !== null);
      if (nominal === null || own.length === 0 || filter.kind === 'graduated-nd') return [];
      const stops = reference - median(own.map((one) => one.level!));
      return [{ filter, nominal, stops, own }];
    }),
  );
  strengths.sort((a, b) => a.nominal - b.nominal);
  return strengths.slice(1).flatMap((stronger, i): Check[] => {
    const weaker = strengths[i];
    if (stronger.nominal - weaker.nominal < 0.5 || stronger.stops > weaker.stops - ORDER_STOPS) return [];
    const name = (one: typeof weaker) => one.filter.name ?? one.filter.id;
    return [
      {
        code: 'order',
        severity: 'look',
        takes: [...weaker.own, ...stronger.own].map((one) => one.take.id),
        file: stronger.own[0].path,
        message: `On “${scene}” ${name(stronger)} takes about ${stronger.stops.toFixed(1)} stops and ${name(weaker)} ${weaker.stops.toFixed(1)}: were they exchanged?`,
        advice: 'Look at both; if they were exchanged, drag their files to each other’s place.',
        show: { kind: 'beside', file: weaker.own[0].path },
      },
    ];
  });
}

function ofTimes(seen: readonly Seen[], bare: readonly Seen[]): Check[] {
  const times = bare.flatMap((one) => one.at ?? []);
  if (times.length === 0) return [];
  const far = seen.filter(
    (one) =>
      one.take.filter !== null &&
      one.at !== null &&
      Math.min(...times.map((time) => Math.abs(time - one.at!))) > FAR_FROM_BARE * 1000,
  );
  if (far.length === 0) return [];
  const worst = Math.max(...far.map((one) => Math.min(...times.map((time) => Math.abs(time - one.at!)))));
  return [
    {
      code: 'time-gap',
      severity: 'look',
      takes: [...new Set(far.map((one) => one.take.id))],
      file: far[0].path,
      message: `${far[0].path}${far.length > 1 ? ` and ${far.length - 1} more` : ''} lie up to ${duration(worst / 1000)} from the nearest bare take.`,
      advice: 'Light may have changed unseen: shoot bare more often, or check the times.',
      show: { kind: 'picture' },
    },
  ];
}

function ofProfiles(scene: string, seen: readonly Seen[]): Check[] {
  const kindOf = ({ file: { facts } }: Seen) =>
    JSON.stringify([facts.width, facts.height, facts.bitDepth, facts.encoding.transfer, facts.encoding.profile]);
  const kinds = new Map<string, Seen[]>();
  for (const one of seen) kinds.set(kindOf(one), [...(kinds.get(kindOf(one)) ?? []), one]);
  if (kinds.size < 2) return [];
  const groups = [...kinds.values()].sort((a, b) => b.length - a.length);
  const [most] = groups;
  const others = groups.slice(1).flat();
  const words = ({ file: { facts } }: Seen) =>
    `${facts.width} × ${facts.height}, ${facts.bitDepth} bit, ${transferWords(facts)}`;
  return [
    {
      code: 'mixed-profiles',
      severity: 'look',
      takes: [...new Set(others.map((one) => one.take.id))],
      file: others[0].path,
      message: `“${scene}” mixes kinds of files: ${others[0].path} is ${words(others[0])}, most are ${words(most[0])}.`,
      advice:
        'Shoot a scene with one profile and size: of another size it can’t be compared, another response is decoded as the file says.',
      show: { kind: 'beside', file: most[0].path },
    },
  ];
}

/** Cameras that write gain maps draw each part of a picture by what is around it. */
function ofGainMaps(scene: string, seen: readonly Seen[]): Check[] {
  const mapped = seen.filter(({ file: { facts } }) => facts.gainMap);
  if (mapped.length === 0) return [];
  return [
    {
      code: 'gain-map',
      severity: 'look',
      takes: [...new Set(mapped.map((one) => one.take.id))],
      file: mapped[0].path,
      message: `“${scene}”: ${mapped.length === 1 ? `${mapped[0].path} carries` : `${mapped.length} files carry`} a gain map for bright screens. It is left out; the base picture is measured.`,
      advice:
        'Cameras that write gain maps usually draw bright and dark places apart: switch high dynamic range off in the camera, or shoot raw.',
      show: { kind: 'picture' },
    },
  ];
}

function transferWords({ encoding }: PictureFacts): string {
  const { transfer } = encoding;
  if (transfer === null) return 'encoding unsaid';
  return typeof transfer === 'string'
    ? transfer
    : 'black' in transfer
      ? 'raw'
      : (encoding.profile ?? 'a curve of its own');
}
