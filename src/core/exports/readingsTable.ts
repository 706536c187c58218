/** Readings as rows for a spreadsheet: one filter a row with its main figures, or one figure a row with all there are. */
import { softestOf } from '../judging/ranking/figures';
import type { FilterReadings, Reading, Readings } from '../session/readings';
import type { Session } from '../session/schema';

type Cell = string | number | null | undefined;

/** Main figures, each with its ± in the column behind it. */
const FIGURES: readonly (readonly [column: string, figure: (one: FilterReadings) => Reading | null | undefined])[] = [
  ['stops', ({ density }) => density?.stops],
  ['error_stops', ({ density }) => density?.error],
  ['stops_red', ({ density }) => density?.channels.r],
  ['stops_green', ({ density }) => density?.channels.g],
  ['stops_blue', ({ density }) => density?.channels.b],
  ['cast_a', ({ cast }) => cast?.a],
  ['cast_b', ({ cast }) => cast?.b],
  ['cast_delta_e00', ({ cast }) => cast?.deltaE00],
  ['cast_mired_shift', ({ cast }) => cast?.miredShift],
  ['sharpness_kept', softestOf],
  ['darkest_corner_stops', ({ shading }) => shading?.worst],
  ['corner_top_left_stops', ({ shading }) => shading?.corners.topLeft],
  ['corner_top_right_stops', ({ shading }) => shading?.corners.topRight],
  ['corner_bottom_left_stops', ({ shading }) => shading?.corners.bottomLeft],
  ['corner_bottom_right_stops', ({ shading }) => shading?.corners.bottomRight],
  ['hot_spot_stops', ({ shading }) => shading?.hotSpot],
  ['unevenness_stops', ({ shading }) => shading?.unevenness],
  ['veil_percent', ({ flare }) => flare?.veilPercent],
  ['polarizer_brightest_stops', ({ polarizer }) => polarizer?.brightest],
  ['polarizer_extinction_stops', ({ polarizer }) => polarizer?.extinctionStops],
  ['polarizer_axis_degrees', ({ polarizer }) => polarizer?.axisDegrees],
  ['glare_cut_stops', ({ polarizer }) => polarizer?.glareCut],
  ['sky_darkening_stops', ({ polarizer }) => polarizer?.skyDarkening],
  ['variable_lightest_stops', ({ variable }) => variable?.lightest],
  ['variable_darkest_stops', ({ variable }) => variable?.darkest],
  ['graduated_clear_stops', ({ graduation }) => graduation?.clearStops],
  ['graduated_dense_stops', ({ graduation }) => graduation?.denseStops],
  ['graduated_midline', ({ graduation }) => graduation?.midline],
  ['graduated_width', ({ graduation }) => graduation?.transitionWidth],
  ['graduated_angle_degrees', ({ graduation }) => graduation?.angleDegrees],
];

/** What is told without a ±: words, labels, gains. */
const FACTS: readonly (readonly [column: string, fact: (one: FilterReadings) => Cell])[] = [
  ['label_stops', (one) => one.nominalStops],
  ['strength_verdict', (one) => one.verdict.label],
  ['cast_verdict', (one) => one.verdict.cast],
  ['sharpness_verdict', (one) => one.verdict.sharpness],
  ['corners_verdict', (one) => one.verdict.corners],
  ['acts_like_nd_factor', ({ density }) => density?.actsLike?.ndFactor],
  ['gain_red', ({ cast }) => cast?.gains.r],
  ['gain_blue', ({ cast }) => cast?.gains.b],
  ['cross_begins_stops', ({ variable }) => variable?.crossBegins?.stops],
  ['faults', ({ faults }) => faults.map((fault) => fault.code).join(' ')],
];

const NAMES = ['kit', 'kit_id', 'filter', 'filter_id'] as const;

export function readingsHeader(): string[] {
  return [...NAMES, ...FIGURES.flatMap(([column]) => [column, `${column}_u95`]), ...FACTS.map(([column]) => column)];
}

/** Rows under {@link readingsHeader}; a withheld figure is an empty cell. */
export function readingsRows(session: Session, readings: Readings): string[][] {
  const names = namesOf(session);
  return readings.filters.map((one) => [
    ...names(one),
    ...FIGURES.flatMap(([, figure]) => {
      const found = figure(one);
      return [written(found?.value), written(found?.u95)];
    }),
    ...FACTS.map(([, fact]) => written(fact(one))),
  ]);
}

export function figuresHeader(): string[] {
  return [...NAMES, 'figure', 'value', 'u95'];
}

/** Where no figures are: words, what a figure rests on, and curves and maps, which have files of their own kind. */
const SKIPPED = new Set([
  'faults',
  'verdict',
  'budget',
  'sensitivities',
  'pictures',
  'curves',
  'map',
  'lens',
  'profile',
]);

/** Every figure of the readings, one a row, named as the JSON has it: `sharpness[left-level].retained`. */
export function figuresRows(session: Session, readings: Readings): string[][] {
  const names = namesOf(session);
  return readings.filters.flatMap((one) => {
    const { filter: _, kit: __, ...figures } = one;
    return figuresIn(figures, '').map(([path, value, u95]) => [...names(one), path, written(value), written(u95)]);
  });
}

type Figure = [path: string, value: number, u95: number | undefined];

function figuresIn(node: unknown, path: string): Figure[] {
  if (typeof node === 'number') return Number.isFinite(node) ? [[path, node, undefined]] : [];
  if (typeof node !== 'object' || node === null) return [];
  if (Array.isArray(node)) {
    if (!node.every((item) => typeof item === 'object' && item !== null && !Array.isArray(item))) return [];
    const names = node.map((item: Record<string, unknown>, i) => String(placeOf(item) ?? i));
    // Entries of one name are told apart by their place.
    const isOnly = (name: string) => names.indexOf(name) === names.lastIndexOf(name);
    return node.flatMap((item, i) => figuresIn(item, `${path}[${isOnly(names[i]) ? names[i] : `${names[i]} ${i}`}]`));
  }
  const { value, u95 } = node as Partial<Reading>;
  if (typeof value === 'number' && typeof u95 === 'number') return [[path, value, u95]];
  return Object.entries(node).flatMap(([key, child]) =>
    SKIPPED.has(key) ? [] : figuresIn(child, path === '' ? key : `${path}.${key}`),
  );
}

/** What an entry of a list is told from the others by. */
function placeOf({ patch, mark, scene, take }: Record<string, unknown>): string | number | null {
  const named = patch ?? mark ?? scene ?? take;
  return typeof named === 'string' || typeof named === 'number' ? named : null;
}

function namesOf(session: Session) {
  const kits = new Map(session.kits.map((kit) => [kit.id, kit.name ?? kit.id]));
  const filters = new Map(
    session.kits.flatMap((kit) => kit.filters.map((filter) => [filter.id, filter.name ?? filter.id])),
  );
  return ({ kit, filter }: Pick<FilterReadings, 'kit' | 'filter'>): string[] => [
    kits.get(kit) ?? kit,
    kit,
    filters.get(filter) ?? filter,
    filter,
  ];
}

const written = (cell: Cell): string =>
  cell === null || cell === undefined ? '' : typeof cell === 'number' ? String(Number(cell.toPrecision(8))) : cell;
