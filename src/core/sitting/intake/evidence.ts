/** What a file's name, brightness, exposure and view say of the places that it could belong to. */
import { nominalStops } from '../../session/notation';
import { isEven, likeness, type Look } from './look';
import { median } from '../../formulas/statistics/averages';
import { POLARIZED_SCENES } from '../../session/polarizing';
import type { Evidence, FileToLay, KnownFile, Spot } from './laidFile';
import type { NamedFilter, SaidByName } from './names';

/** Labels lie and lights drift: what a filter's strength may differ by, stops. */
const STRENGTH_SIGMA = 0.45;
/** A camera's exposure against the plan's, stops: marks are rounded. */
const EXPOSURE_SIGMA = 0.2;

const EVEN_KINDS = new Set<string>(['flat', 'screen']);

/** What a name says of a place. */
export function ofName(said: SaidByName, place: Spot, filters: readonly NamedFilter[]): Evidence[] {
  const found: Evidence[] = [];
  if (said.filter !== undefined) {
    const same = said.filter === place.filter;
    const name = said.filter === null ? 'bare' : (filters.find((one) => one.id === said.filter)?.name ?? said.filter);
    found.push({ score: same ? 5 : -5, words: `its name says ${name}` });
  }
  if (said.scene !== null)
    found.push({ score: said.scene === place.kind ? 3 : -3, words: `its name speaks of ${said.scene}` });
  // What was planned has its own settings; a camera's name says nothing of it.
  const asksForName = place.bracket && (place as { planned?: string }).planned === undefined;
  if (said.bracket || asksForName) {
    const same = said.bracket === (place.bracket ?? false);
    found.push({
      score: same ? 3 : -3,
      words: said.bracket ? 'its name speaks of a bracket' : 'its name doesn’t speak of the bracket',
    });
  }
  if (said.ringDegrees !== null && place.ringDegrees !== undefined) {
    const apart = Math.abs(((said.ringDegrees - place.ringDegrees + 540) % 360) - 180);
    found.push({ score: apart < 1 ? 3 : -3, words: `its name says ${said.ringDegrees}°` });
  }
  if (said.mark !== null && place.mark !== undefined)
    found.push({ score: said.mark === place.mark ? 3 : -3, words: `its name says mark ${said.mark}` });
  return found;
}

/** log2 of bare light at exposure 1, by scene. */
export type Levels = ReadonlyMap<string, { log2: number; sure: boolean }>;

/** log2 of a file's light at exposure 1, where both are known. */
export const levelOf = ({ lightLog2, exposureLog2 }: FileToLay) =>
  lightLog2 === null || exposureLog2 === null ? null : lightLog2 - exposureLog2;

/** What bare pictures show at exposure 1; where none is known by its name, the brightest for its exposure stands in. */
export function bareLevels(
  files: readonly FileToLay[],
  said: readonly SaidByName[],
  places: readonly Spot[],
  known: readonly KnownFile[],
): Levels {
  const levels = new Map<string, { log2: number; sure: boolean }>();
  for (const { scene, kind } of places) {
    if (levels.has(scene)) continue;
    const here = files.flatMap((file, i) => {
      const level = levelOf(file);
      return level !== null && fits(file, said[i], kind) ? [{ level, said: said[i] }] : [];
    });
    const named = [
      ...known.flatMap((one) => (one.scene === scene && one.filter === null ? (levelOf(one) ?? []) : [])),
      ...here.filter((one) => one.said.filter === null).map((one) => one.level),
    ];
    if (named.length > 0) levels.set(scene, { log2: median(named), sure: true });
    else if (here.length > 1) levels.set(scene, { log2: Math.max(...here.map((one) => one.level)), sure: false });
  }
  return levels;
}

/** Whether a file may show a kind of scene, by its name, else by whether it is even. */
function fits(file: FileToLay, said: SaidByName, kind: string): boolean {
  if (said.scene !== null) return said.scene === kind;
  return file.look === null || isEven(file.look) === EVEN_KINDS.has(kind);
}

/** What a file's brightness at its exposure says of a place. */
export function ofStrength(
  file: FileToLay,
  said: SaidByName,
  place: Spot,
  filters: readonly NamedFilter[],
  bare: Levels,
): Evidence[] {
  const level = levelOf(file);
  const reference = bare.get(place.scene);
  // Before polarized light a polarizer is as dark as its ring says, not its label.
  if (POLARIZED_SCENES.has(place.kind) && place.filter !== null) return [];
  if (level === null || !reference || said.bracket || place.bracket) return [];
  const stops = reference.log2 - level;
  const off = offFromMark(stops, place, filters) ?? offFrom(stops, place.filter, filters);
  if (off === null) return [];
  const score = 1.5 - Math.min(4, off ** 2 / (2 * STRENGTH_SIGMA ** 2));
  const size = Math.abs(stops).toFixed(1);
  const words = `at its exposure it is ${size} stops ${stops < 0 ? 'brighter' : 'darker'} than ${reference.sure ? 'bare' : 'the brightest'}`;
  return [{ score: reference.sure ? score : score / 1.5, words }];
}

/** How far a strength is from a filter's label; `null` where the label promises nothing that could be compared. */
export function offFrom(stops: number, filterId: string | null, filters: readonly NamedFilter[]): number | null {
  if (filterId === null) return Math.abs(stops);
  const filter = filters.find((one) => one.id === filterId);
  if (!filter || filter.kind === 'graduated-nd') return null;
  const { stopsRange } = filter.nominal;
  if (stopsRange) return Math.max(0, stopsRange[0] - stops, stops - stopsRange[1]);
  const nominal = nominalStops(filter.nominal);
  return nominal === null ? null : Math.abs(stops - nominal);
}

/** What marks of variable filters are off by often, stops (common practice, no source). */
const MARK_OFF = 0.4;

/** How far a strength is from the mark at which a variable filter stands, where marks are stops of its labelled range. */
function offFromMark(stops: number, { filter, mark }: Spot, filters: readonly NamedFilter[]): number | null {
  const range = filters.find((one) => one.id === filter)?.nominal.stopsRange;
  if (!range || mark === undefined || mark < Math.min(...range) || mark > Math.max(...range)) return null;
  return Math.max(0, Math.abs(stops - mark) - MARK_OFF);
}

/** What a file's exposure says of a take whose exposure is known. */
export function ofExposure(file: FileToLay, place: Spot): Evidence[] {
  if (file.exposureLog2 === null || place.exposureLog2 === undefined || place.exposureLog2 === null) return [];
  const apart = file.exposureLog2 - place.exposureLog2;
  const score = 1.5 - Math.min(4.5, apart ** 2 / (2 * EXPOSURE_SIGMA ** 2));
  const words =
    Math.abs(apart) < 0.15
      ? 'its exposure is the take’s'
      : `its exposure is ${Math.abs(apart).toFixed(1)} stops off the take’s`;
  return [{ score, words }];
}

/** Looks of files whose scene their names tell, a scene each. */
export function scenesViews(
  files: readonly FileToLay[],
  said: readonly SaidByName[],
  places: readonly Spot[],
  known: readonly KnownFile[],
) {
  const views = new Map<string, Look>();
  for (const { scene, kind } of places) {
    const shows =
      known.find((one) => one.scene === scene && one.look && !isEven(one.look)) ??
      files.find((file, i) => file.look && said[i].scene === kind && !isEven(file.look));
    if (shows?.look) views.set(scene, shows.look);
  }
  return views;
}

/** What a file shows against what a scene looks like. */
export function ofView(file: FileToLay, place: Spot, views: ReadonlyMap<string, Look>): Evidence[] {
  if (!file.look) return [];
  const even = isEven(file.look);
  if (even || EVEN_KINDS.has(place.kind)) {
    const same = even === EVEN_KINDS.has(place.kind);
    return [{ score: same ? 2.5 : -2.5, words: even ? 'it shows an even surface' : 'it shows no even surface' }];
  }
  const view = views.get(place.scene);
  if (!view) return [];
  const alike = likeness(file.look, view);
  if (alike === null) return [];
  return [
    {
      score: alike > 0.85 ? 1.5 : -2,
      words: alike > 0.85 ? `it shows the ${place.scene}’s view` : 'it shows another view',
    },
  ];
}
