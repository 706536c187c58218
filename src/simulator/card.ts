/**
 * The simulated bench: shoots a plan and leaves the pictures as a camera's card would hold them, with names that say nothing, exposures
 * and times in their EXIF, and the mishaps that were asked for. What each filter really is, nobody is told.
 */
import { join } from 'node:path';
import sharp from 'sharp';
import { nominalStops } from '@/core/session/notation';
import type { PlannedTake as Planned } from '@/core/sitting/planning/plan';
import type { Filter } from '@/core/session/schema';
import type { ShotMistake } from '@/core/sitting/live/mistakes';
import { renderTake } from './bench';
import { seededRandom, type Random } from './random';
import type { BenchPlan, PlannedTake, Setting, Spoiled, TrueFilter } from './truth';

export const MISHAPS = ['cloud', 'ring', 'swapped', 'missed'] as const;
export type Mishap = (typeof MISHAPS)[number];

/** One picture on the card. */
export interface CardPicture {
  name: string;
  /** Milliseconds since 1970, by the camera's clock. */
  timeMs: number;
  take: PlannedTake;
  index: number;
  iso: number;
  fNumber: number;
  shutterSeconds: number;
}

const SIZE = { width: 720, height: 480 };
const BARE_SECONDS = 1 / 2000;
const DRIFT_STOPS = 0.1;
const TAP_DELAY_MS = 300;
const CLOUD_STOPS = -0.5;

/** Filters near their labels, each a little off and a little colored. */
function truthOf({ id, name, kind, nominal }: Filter, random: Random): TrueFilter {
  const off = () => 0.12 * random.normal();
  const tint = () => 0.04 * random.normal();
  const range = nominal.stopsRange;
  const label = range
    ? 0
    : kind === 'graduated-nd'
      ? 0.05
      : (nominalStops(nominal) ?? (kind === 'polarizer' ? 1.5 : 2));
  const base = label < 0.2 ? label + 0.02 : Math.max(0.05, label + off());
  const common = {
    id,
    name: name ?? id,
    kind,
    nominal,
    stops: [base + tint(), base, base + tint()] as [number, number, number],
    blurPx: 0.1 + 0.2 * random.uniform(),
    cornerStops: 0.1 * random.uniform(),
  };
  const polarizes = kind === 'polarizer' || kind === 'nd-polarizer';
  const dense = nominalStops(nominal) ?? 3;
  return {
    ...common,
    ...(polarizes
      ? { polarizer: { axisDegrees: 6 * random.normal(), extinctionStops: 5 + 3 * random.uniform() } }
      : {}),
    ...(range
      ? {
          variable: {
            marks: [Math.min(...range), Math.max(...range)].map((mark) => ({ mark, stops: mark + off() })),
            cross: { from: Math.max(...range) - 1.2, stopsPerMark: 0.2, axisDegrees: 180 * random.uniform() },
          },
        }
      : {}),
    ...(kind === 'graduated-nd'
      ? {
          graduation: {
            denseStops: [dense + off(), dense, dense + tint()] as [number, number, number],
            midline: 0.5 + 0.05 * random.normal(),
            width: 0.1 + 0.2 * random.uniform(),
            angleDegrees: 2 * random.normal(),
          },
        }
      : {}),
  };
}

/** What each filter really is: the same whenever the same kit is shot. */
function seededTruths(filters: readonly Filter[], seed: string): Map<string, TrueFilter> {
  const random = seededRandom(`${seed}/truth`);
  return new Map(filters.map((filter) => [filter.id, truthOf(filter, random)]));
}

/** The bench that a card is shot on. */
function benchOf(seed: string): BenchPlan {
  return {
    title: seed,
    seed,
    ...SIZE,
    camera: { response: 'srgb', bitDepth: 8, fullWell: 12000, readNoise: 3, falloffStops: 0.5, blurPx: 0.65 },
    lamps: { driftStops: DRIFT_STOPS },
    protocol: 'matched',
    bareLevel: 0.8,
    filters: [],
    repeats: 1,
    bareEvery: 1,
    startedAt: '',
    scenes: [],
    polarization: { lightDegrees: 0, degree: 0.7, bench: 0.02 },
  };
}

const exposureOf = ({ shutterSeconds, iso, fNumber }: Planned['setting']) => (shutterSeconds * iso) / fNumber ** 2;

/**
 * What a card holds after a plan was shot.
 *
 * @param startMs when the first take was shot
 * @param doneMs when takes were tapped as done, where somebody went through the run sheet; takes that were skipped are `null`
 */
export function shootPlan(
  planned: readonly Planned[],
  filters: readonly Filter[],
  seed: string,
  startMs: number,
  mishaps: readonly Mishap[],
  doneMs: ReadonlyMap<string, number | null> = new Map(),
): { bench: BenchPlan; pictures: CardPicture[] } {
  const random = seededRandom(seed);
  const truths = seededTruths(filters, seed);
  const shot = planned.filter((one) => one.filter !== null);
  const pick = (list: readonly Planned[]) => list[Math.floor(random.uniform() * list.length)];
  const missed = mishaps.includes('missed') && shot.length > 1 ? pick(shot) : null;
  const clouded = mishaps.includes('cloud') ? pick(shot) : null;
  const sweep = planned.filter((one) => one.role === 'sweep' && one.ringDegrees !== undefined);
  const stuck = mishaps.includes('ring') && sweep.length > 4 ? sweep[2] : null;
  // Two neighbors of a row are what hands confuse.
  const plain = filters.filter((one) => one.kind === 'nd');
  const at = plain.length > 1 ? Math.floor(random.uniform() * (plain.length - 1)) : -1;
  const swap = mishaps.includes('swapped') && at >= 0 ? [plain[at].id, plain[at + 1].id] : null;
  const other = (id: string) => (swap?.includes(id) ? swap[1 - swap.indexOf(id)] : id);

  const bare = planned.find((one) => one.filter === null);
  const base = bare ? exposureOf(bare.setting) : 1;
  let number = 1000 + Math.floor(8000 * random.uniform());
  let timeMs = startMs;
  const pictures: CardPicture[] = [];
  planned.forEach((take, i) => {
    timeMs += 60_000 + 40_000 * random.uniform();
    const tapped = doneMs.get(take.id);
    if (take === missed || tapped === null) return;
    // The shutter goes before the thumb.
    const shotMs = tapped === undefined ? timeMs : tapped - TAP_DELAY_MS;
    const id = take.filter === null ? null : other(take.filter);
    const ringDegrees = take === stuck ? sweep[1].ringDegrees : take.ringDegrees;
    const setting: Setting | undefined =
      ringDegrees === undefined && take.mark === undefined ? undefined : { ringDegrees, mark: take.mark };
    const exposed: PlannedTake = {
      id: take.id,
      filter: id === null ? null : truths.get(id)!,
      scene: take.scene,
      role: take.role,
      ...(setting ? { setting } : {}),
      minute: i,
      lampStops: (DRIFT_STOPS * i) / planned.length + (take === clouded ? CLOUD_STOPS : 0),
      shutterSeconds: (BARE_SECONDS * exposureOf(take.setting)) / base,
      shutterText: '',
      iso: take.setting.iso,
      repeats: take.repeats,
    };
    for (let index = 0; index < take.repeats; index++) {
      const { shutterSeconds, iso, fNumber } = take.setting;
      const name = `AG${String(number++ % 10_000).padStart(4, '0')}.JPG`;
      pictures.push({
        name,
        timeMs: shotMs + (tapped === undefined ? 4000 : 1) * index,
        take: exposed,
        index,
        shutterSeconds,
        iso,
        fNumber,
      });
    }
  });
  return { bench: benchOf(seed), pictures };
}

/** Stops that a wrong dial is off by: a chart's gray lies far below white. */
const WRONG_STOPS = 3.5;
const DARK_STOPS = 7;
const TURNED_DEGREES = 35;
const TURNED_MARKS = 2;

/**
 * One take of a plan, shot now, with a mistake or none.
 *
 * @param take id of the planned take
 * @param nowMs milliseconds since 1970
 */
export function shootTake(
  planned: readonly Planned[],
  filters: readonly Filter[],
  seed: string,
  take: string,
  mistake: ShotMistake | null,
  nowMs: number,
): { bench: BenchPlan; pictures: CardPicture[] } {
  const { bench, pictures } = shootPlan(planned, filters, seed, nowMs, []);
  const random = seededRandom(`${seed} ${take} ${nowMs}`);
  const truths = seededTruths(filters, seed);
  const own = pictures.filter((one) => one.take.id === take);
  const stops = mistake === 'clipped' ? WRONG_STOPS : mistake === 'dark' ? -DARK_STOPS : 0;
  const others = filters.filter(({ id, kind }) => kind === 'nd' && id !== own[0]?.take.filter?.id);
  const wrong =
    mistake === 'wrong filter' && others.length > 0 ? others[Math.floor(random.uniform() * others.length)] : null;
  const spoiled: Partial<Spoiled> = {
    ...(mistake === 'moved' ? { movedPx: [SIZE.width / 12, SIZE.height / 20] } : {}),
    ...(mistake === 'focus' ? { focusPx: { center: 3, corner: 3 } } : {}),
    ...(mistake === 'white balance' ? { gainStops: [0.45, 0, -0.45] } : {}),
  };
  const number = Math.floor(nowMs / 1000) % 10_000;
  return {
    bench: { ...bench, spoiled: [{ take, ...spoiled }] },
    pictures: own.map((one) => {
      const setting = one.take.setting;
      const turned = mistake === 'wrong angle' && setting ? turnedRing(setting, one.take.filter) : null;
      return {
        ...one,
        name: `AG${String((number + one.index) % 10_000).padStart(4, '0')}.JPG`,
        timeMs: nowMs + 1000 * one.index,
        shutterSeconds: one.shutterSeconds * 2 ** stops,
        take: {
          ...one.take,
          shutterSeconds: one.take.shutterSeconds * 2 ** stops,
          lampStops: one.take.lampStops + (mistake === 'light' ? CLOUD_STOPS * 2 : 0),
          ...(wrong && one.take.filter ? { filter: truths.get(wrong.id)! } : {}),
          ...(turned ? { setting: turned } : {}),
        },
      };
    }),
  };
}

/** A ring that stands well away from where it should: a polarizer's by an angle, a variable filter's by two marks. */
function turnedRing(setting: Setting, filter: TrueFilter | null): Setting {
  if (setting.ringDegrees !== undefined) return { ...setting, ringDegrees: setting.ringDegrees + TURNED_DEGREES };
  const [mark, marks] = [setting.mark, filter?.variable?.marks.map((one) => one.mark)];
  if (mark === undefined || !marks) return setting;
  return { ...setting, mark: mark + TURNED_MARKS > Math.max(...marks) ? mark - TURNED_MARKS : mark + TURNED_MARKS };
}

/** Renders one picture of a card into a folder; gives its path. */
export async function developPicture(bench: BenchPlan, picture: CardPicture, folder: string): Promise<string> {
  const { take, index, name, timeMs, shutterSeconds, iso, fNumber } = picture;
  const { data, width, height, channels } = renderTake(bench, take, index);
  const path = join(folder, name);
  const moment = new Date(timeMs).toISOString();
  const rational = (value: number) => `${Math.round(value * 1e6)}/1000000`;
  await sharp(data, { raw: { width, height, channels } })
    .jpeg({ quality: 98, chromaSubsampling: '4:4:4' })
    .withExif({
      IFD2: {
        ExposureTime: rational(shutterSeconds),
        FNumber: rational(fNumber),
        ISOSpeedRatings: String(Math.round(iso)),
        DateTimeOriginal: moment.slice(0, 19).replaceAll('-', ':').replace('T', ' '),
        OffsetTimeOriginal: '+00:00',
        WhiteBalance: '1',
      },
    })
    .toFile(path);
  return path;
}
