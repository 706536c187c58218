/** The figures of a report: taken from the newest readings each time it is shown, never from its texts. */
import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import { resolveColorSpace } from '@/core/formulas/color/spaces';
import { disclosureOf } from '@/core/sitting/kits/keptKit';
import {
  coverageInWords,
  coverageOf,
  evennessOf,
  honestLabel,
  standInsOf,
  stepsOf,
  type RankedKit,
} from '@/core/judging/ranking/kitAsSet';
import { kitKey, kitsAcross, sittingsOf, softestOf } from '@/core/judging/ranking/figures';
import { pricePerUseful } from '@/core/judging/ranking/rank';
import type { Report, ReportPicture } from '@/core/exports/report';
import type { FilterReadings } from '@/core/session/readings';
import { besideOthers, benchOf, ownBench } from '@/core/judging/agreement/benches';
import { leftOutOf } from '@/core/sitting/live/leftOut';
import { FOLLOWED, type DatedSitting } from '@/core/judging/overTime/lives';
import { productsOf } from '@/core/judging/overTime/samples';
import { allBenches, rendition, storedFiles } from '@/store';
import type { Stale } from '@/ui/sessionView';
import { carryAnswer, offersOf } from '@/stages/carry/answer';
import { hoursInWords, shareInWords, shortfallInWords, strengthOf, titleOf, workInWords } from '@/stages/carry/words';
import { measuredSessions, wholeSession, type WholeSession } from './across';
import { bandsInForce } from './judged';
import { pickList } from './pickList';
import { benchSentences, sampleSentences, shotAgainInWords, yearSentences } from './reportSentences';
import { decimalsFor, fixed, plusMinus } from '@/ui/format';

/** Findings, not gaps: they stand beside the steps. */
const OF_THE_KIT = new Set(['steps-merged', 'order-suspect']);

export interface ReportRow {
  filter: string;
  name: string;
  nominal: number | null;
  stops: { value: number; u95: number } | null;
  error: { value: number; u95: number } | null;
  verdict: string;
  sentence: string;
  cast: { value: number; u95: number; words: string; a: number; b: number; u95ab?: readonly [number, number] } | null;
  kept: { value: number; u95: number; words: string } | null;
  corner: { value: number; u95: number; words: string } | null;
  others: string[];
  honest: string | null;
}

export interface ReportKit {
  name: string;
  disclosure: string | null;
  rows: ReportRow[];
  steps: { from: string; to: string; labelled: number; found: number; u95: number; state: string }[];
  sentences: string[];
}

export interface ReportSession {
  id: string;
  title: string;
  measuredAt: string;
  generator: string;
  readingId: number;
  stale: Stale;
  conditions: string[];
  kits: ReportKit[];
  /** What is withheld or doubtful, and what to shoot again. */
  notes: { filters: string[]; message: string; remedy: string | null }[];
  /** Small pictures, bare first, as JPEG data addresses. */
  strip: { name: string; picture: string }[];
}

export interface ReportFigures {
  madeAt: string;
  bounds: number[];
  sessions: ReportSession[];
  /** Sessions that are gone or were never measured. */
  missing: number;
  /** Pictures of its author's, as JPEG data addresses; versions frozen by older programs have none. */
  pictures?: { caption: string; picture: string }[];
  /** What to carry for some work; versions frozen by older programs have none. */
  carried?: ReportCarried[];
}

/** A question of what to carry with its answer. */
export interface ReportCarried {
  title: string;
  works: string[];
  rows: { name: string; kit: string; stops: string; adds: string; covered: string }[];
  sentences: string[];
}

export async function reportFigures({ sessions, pictures, carry }: Report): Promise<ReportFigures> {
  const [bands, dated] = await Promise.all([bandsInForce(), standingSittings()]);
  const wholes = await Promise.all(sessions.map(wholeSession));
  const found = wholes.flatMap((whole) => whole ?? []);
  return {
    madeAt: new Date().toISOString(),
    bounds: bands.strength.map((band) => band.upTo).filter(Number.isFinite),
    sessions: await Promise.all(found.map((whole) => sessionFigures(whole, dated))),
    missing: wholes.length - found.length,
    pictures: (await Promise.all(pictures.map(shownPicture))).flat(),
    carried: await carriedIn(carry),
  };
}

/** Sittings of all sessions whose figures stand, with their days. */
async function standingSittings(): Promise<DatedSitting[]> {
  const { sessions } = await measuredSessions();
  return sessions
    .filter(({ stale }) => stale === null)
    .flatMap(({ day, sittings }) => sittings.map((one) => ({ ...one, day })));
}

/** Answers of today, by all measured kits. */
async function carriedIn(asked: Report['carry']): Promise<ReportCarried[]> {
  if (asked.length === 0) return [];
  const offers = offersOf((await pickList()).kits);
  return asked.map((one) => {
    const answer = carryAnswer(one, offers);
    const { hours, bare, steps } = answer;
    const row = (name: string, kit: string, stops: string, adds: number, covered: number) => {
      return { name, kit, stops, adds: hoursInWords(adds), covered: shareInWords(covered, hours) };
    };
    return {
      title: titleOf(answer),
      works: one.works.map(workInWords),
      rows: [
        row('No filter', '', '0', bare, bare),
        ...steps.map(({ offer, adds, covered }) => row(offer.name, offer.kit, strengthOf(offer), adds, covered)),
      ],
      sentences: answer.shortfalls.map((shortfall) => shortfallInWords(shortfall, one.works)),
    };
  });
}

/** Wide enough for the page, in print too. */
const WIDEST_PICTURE = 1600;

async function shownPicture({ sha256, caption }: ReportPicture): Promise<{ caption: string; picture: string }[]> {
  try {
    const path = await rendition(sha256, WIDEST_PICTURE, { kind: 'srgb' });
    return [{ caption, picture: `data:image/jpeg;base64,${(await readFile(path)).toString('base64')}` }];
  } catch {
    // One whose file is gone or damaged is left out; the editor shows its empty place.
    return [];
  }
}

async function sessionFigures(whole: WholeSession, dated: readonly DatedSitting[]): Promise<ReportSession> {
  const { id, session, readings, stale, readingId } = whole;
  const bands = await bandsInForce();
  const space = resolveColorSpace(session.rig.colorSpace);
  const names = new Map(session.kits.flatMap((kit) => kit.filters.map((one) => [one.id, one.name ?? one.id])));
  const sittings = sittingsOf(id, session, readings.filters);
  const across = kitsAcross(sittings);
  const others = (await allBenches()).map(({ id: bench, item }) => benchOf(bench, item));
  const kits = across.map((kit): ReportKit => {
    // Kits without a rated filter aren't among those: places in the two lists differ.
    const own = sittings.find((one) => kitKey(one.kit) === kit.id)!;
    return {
      name: kit.name,
      disclosure: disclosureOf(own.kit as { obtained?: unknown }),
      rows: kit.filters.flatMap((one) => {
        const found = readings.filters.find(({ filter }) => filter === one.filter);
        return found ? [rowOf(found, one.name, honestLabel(one))] : [];
      }),
      steps: stepsOf(kit.filters, bands).map((one) => ({
        from: one.from,
        to: one.to,
        labelled: one.labelled,
        found: one.found.value,
        u95: one.found.u95,
        state: one.state,
      })),
      sentences: [
        ...kitSentences(kit, space, pricePerUseful(kit, bands)),
        ...benchSentences(besideOthers(ownBench([own]), others, FOLLOWED.strength.noticeable)),
        ...yearSentences(dated, kit.id),
        ...sampleSentences(productsOf(dated, kit.name, 'strength')),
      ],
    };
  });
  const notes = new Map<string, ReportSession['notes'][number]>();
  const note = (filter: string | null, fault: FilterReadings['faults'][number]) => {
    const known = notes.get(fault.message) ?? { filters: [], message: fault.message, remedy: fault.remedy ?? null };
    if (filter) known.filters.push(names.get(filter) ?? filter);
    notes.set(fault.message, known);
  };
  for (const fault of readings.faults) note(null, fault);
  for (const one of readings.filters)
    for (const fault of one.faults)
      if (fault.severity !== 'info' && !OF_THE_KIT.has(fault.code)) note(one.filter, fault);
  return {
    id,
    title: session.title,
    measuredAt: readings.createdAt,
    generator: readings.generator,
    readingId,
    stale,
    conditions: await conditionsOf(whole),
    kits,
    notes: [...notes.values()],
    strip: await stripOf(whole, names),
  };
}

function rowOf(own: FilterReadings, name: string, honest: string | null): ReportRow {
  const { density, cast, shading, verdict, variable, graduation, polarizer } = own;
  const kept = softestOf(own);
  const figure = ({ value, u95 }: { value: number; u95: number }) => ({ value, u95 });
  const pm = ({ value, u95 }: { value: number; u95: number }) =>
    `${fixed(value, decimalsFor(u95))} ${plusMinus(u95, decimalsFor(u95))}`;
  return {
    filter: own.filter,
    name,
    nominal: own.nominalStops,
    stops: density ? figure(density.stops) : null,
    error: density?.error ? figure(density.error) : null,
    verdict: verdict.label,
    sentence: verdict.sentence,
    cast: cast
      ? {
          ...figure(cast.deltaE00),
          words: verdict.cast ?? cast.direction,
          a: cast.a.value,
          b: cast.b.value,
          u95ab: [cast.a.u95, cast.b.u95],
        }
      : null,
    kept: kept ? { ...figure(kept), words: verdict.sharpness ?? '' } : null,
    corner: shading?.worst ? { ...figure(shading.worst), words: verdict.corners ?? '' } : null,
    others: [
      ...(variable ? [`goes from ${pm(variable.lightest)} to ${pm(variable.darkest)} stops`] : []),
      ...(graduation ? [`clear ${pm(graduation.clearStops)}, dense ${pm(graduation.denseStops)} stops`] : []),
      ...(polarizer?.extinctionStops ? [`polarizes with an extinction of ${pm(polarizer.extinctionStops)} stops`] : []),
      ...(polarizer?.glareCut ? [`cuts glare by ${pm(polarizer.glareCut)} stops`] : []),
      ...(polarizer?.skyDarkening ? [`darkens the sky by ${pm(polarizer.skyDarkening)} stops`] : []),
      ...(verdict.hotSpot ? [verdict.hotSpot] : []),
    ],
    honest,
  };
}

function kitSentences(kit: RankedKit, space: ReturnType<typeof resolveColorSpace>, price: number | null): string[] {
  const even = evennessOf(kit.filters, space);
  const coverage = coverageOf(kit.filters);
  const standIns = standInsOf(kit.filters);
  return [
    ...(even
      ? [
          `Cast: ${even.pair[0]} and ${even.pair[1]} differ most, by ΔE00 ${fixed(even.largest.value, 1)} ${plusMinus(even.largest.u95, 1)}; one correction for all leaves ΔE00 ${even.residual.deltaE00.toFixed(1)}.`,
        ]
      : []),
    ...(coverage.length > 0 ? [coverageInWords(coverage)] : []),
    ...coverage.flatMap((one) => (one.sameAs ? [`${one.filter} gives the same shutters as ${one.sameAs}.`] : [])),
    ...standIns.map((one) => `${one.filter} does for an ND${one.factor}.`),
    ...(price !== null && kit.price
      ? [
          `${price.toFixed(2)} ${kit.price.currency} for each filter that does what it says and no neighbor does already.`,
        ]
      : []),
  ];
}

/** When the pictures were taken, as the camera's clock had it: a zone is told where the files tell one. */
export function shotInWords(times: readonly string[]): string | null {
  const sorted = [...times].sort((a, b) => Date.parse(a) - Date.parse(b));
  const [first, last] = [sorted.at(0), sorted.at(-1)];
  if (first === undefined || last === undefined) return null;
  const day = (time: string) => time.slice(0, 10);
  const zone = /[+-]\d\d:\d\d$/.exec(first)?.[0];
  // EXIF without a zone is read as if it were UTC: whose clock that was nobody knows.
  const clock = zone ? `local time, UTC${zone.replace('-', '−')}` : 'by the camera’s clock';
  const end = day(last) === day(first) ? last.slice(11, 16) : `${day(last)} ${last.slice(11, 16)}`;
  return `shot ${day(first)} ${first.slice(11, 16)} to ${end}, ${clock}`;
}

/** Camera and lens as the files tell them; empty where they don't. */
async function camerasIn(files: ReadonlyMap<string, string>): Promise<string[]> {
  const stored = [...(await storedFiles([...files.values()].slice(0, MOST_ASKED))).values()];
  const told = stored.flatMap(({ facts }) => {
    if (!facts.readable) return [];
    const { encoding, lens } = facts.picture;
    const { make, model } = encoding.settings ?? {};
    const camera = model && make && !model.startsWith(make) ? `${make} ${model}` : (model ?? make);
    const words = [camera, lens].filter(Boolean).join(', ');
    return words === '' ? [] : [words];
  });
  return [...new Set(told)].slice(0, MOST_CAMERAS);
}

async function conditionsOf({ session, readings, files }: WholeSession): Promise<string[]> {
  const shot = shotInWords(session.takes.flatMap((take) => take.capturedAt ?? []));
  const told = await camerasIn(files);
  const bare = session.takes.filter((take) => take.filter === null && take.role === 'measure').length;
  const repeats = Math.max(1, ...session.takes.map((take) => take.files.length));
  const { camera, lens } = session.rig;
  return [
    [camera, lens].filter(Boolean).join(', ') || told.join(' and ') || 'a camera that isn’t named',
    ...(camera && told.length > 0 ? [`${told.join(' and ')} by the files`] : []),
    ...(shot === null ? [] : [shot]),
    `${session.takes.length} takes, ${bare} of them bare${repeats > 1 ? `, up to ${repeats} repeats each` : ''}`,
    ...shotAgainInWords(leftOutOf(session)),
    `camera’s response: ${String(readings.response.description ?? readings.response.kind)}`,
  ];
}

/** Files that are asked for their camera at most, and cameras that are named. */
const MOST_ASKED = 200;
const MOST_CAMERAS = 3;

const STRIP = { width: 300, height: 200 };
const MOST_STRIP = 8;

/** The middle of bare and of each filter, of the first scene, as shot. */
async function stripOf(
  { session, files }: WholeSession,
  names: ReadonlyMap<string, string>,
): Promise<ReportSession['strip']> {
  const scene = session.scenes[0]?.id;
  const seen = new Set<string | null>();
  const shots = session.takes
    .filter((take) => take.scene === scene && take.role === 'measure')
    .filter(({ filter }) => !seen.has(filter) && seen.add(filter))
    .sort((a, b) => Number(a.filter !== null) - Number(b.filter !== null))
    .slice(0, MOST_STRIP);
  const made = await Promise.all(
    shots.map(async ({ filter, files: [file] }) => {
      const sha256 = file === undefined ? undefined : files.get(file);
      if (!sha256) return [];
      try {
        const path = await rendition(sha256, 1600, session.rig.response);
        const picture = await sharp(await readFile(path))
          .resize({ ...STRIP, fit: 'cover' })
          .jpeg({ quality: 80 })
          .toBuffer();
        const name = filter === null ? 'bare' : (names.get(filter) ?? filter);
        return [{ name, picture: `data:image/jpeg;base64,${picture.toString('base64')}` }];
      } catch {
        // A picture that can't be shown is missing from the strip; Footage says why.
        return [];
      }
    }),
  );
  return made.flat();
}
