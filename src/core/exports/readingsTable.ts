/** Readings as rows for a spreadsheet: one filter a row, units in the header. */
import type { Readings } from '../session/readings';
import type { Session } from '../session/schema';

const COLUMNS = [
  'kit',
  'filter',
  'name',
  'label_stops',
  'stops',
  'stops_u95',
  'error_stops',
  'stops_red',
  'stops_green',
  'stops_blue',
  'acts_like_nd_factor',
  'strength_verdict',
  'cast_a',
  'cast_b',
  'cast_delta_e00',
  'cast_delta_e00_u95',
  'cast_mired_shift',
  'cast_verdict',
  'gain_red',
  'gain_blue',
  'polarizer_brightest_stops',
  'polarizer_extinction_stops',
  'polarizer_axis_degrees',
  'glare_cut_stops',
  'sky_darkening_stops',
  'variable_lightest_stops',
  'variable_darkest_stops',
  'cross_begins_stops',
  'graduated_clear_stops',
  'graduated_dense_stops',
  'graduated_midline',
  'graduated_width',
  'graduated_angle_degrees',
  'faults',
] as const;

export function readingsHeader(): string[] {
  return [...COLUMNS];
}

/** Rows under {@link readingsHeader}; a withheld figure is an empty cell. */
export function readingsRows(session: Session, readings: Readings): string[][] {
  const names = new Map(
    session.kits.flatMap((kit) => kit.filters.map((filter) => [filter.id, filter.name ?? filter.id])),
  );
  return readings.filters.map((one) => {
    const { density, cast } = one;
    const cells: Record<(typeof COLUMNS)[number], string | number | null | undefined> = {
      kit: one.kit,
      filter: one.filter,
      name: names.get(one.filter),
      label_stops: one.nominalStops,
      stops: density?.stops.value,
      stops_u95: density?.stops.u95,
      error_stops: density?.error?.value,
      stops_red: density?.channels.r.value,
      stops_green: density?.channels.g.value,
      stops_blue: density?.channels.b.value,
      acts_like_nd_factor: density?.actsLike?.ndFactor,
      strength_verdict: one.verdict.label,
      cast_a: cast?.a.value,
      cast_b: cast?.b.value,
      cast_delta_e00: cast?.deltaE00.value,
      cast_delta_e00_u95: cast?.deltaE00.u95,
      cast_mired_shift: cast?.miredShift?.value,
      cast_verdict: one.verdict.cast,
      gain_red: cast?.gains.r,
      gain_blue: cast?.gains.b,
      polarizer_brightest_stops: one.polarizer?.brightest?.value,
      polarizer_extinction_stops: one.polarizer?.extinctionStops?.value,
      polarizer_axis_degrees: one.polarizer?.axisDegrees?.value,
      glare_cut_stops: one.polarizer?.glareCut?.value,
      sky_darkening_stops: one.polarizer?.skyDarkening?.value,
      variable_lightest_stops: one.variable?.lightest.value,
      variable_darkest_stops: one.variable?.darkest.value,
      cross_begins_stops: one.variable?.crossBegins?.stops,
      graduated_clear_stops: one.graduation?.clearStops.value,
      graduated_dense_stops: one.graduation?.denseStops.value,
      graduated_midline: one.graduation?.midline?.value,
      graduated_width: one.graduation?.transitionWidth.value,
      graduated_angle_degrees: one.graduation?.angleDegrees.value,
      faults: one.faults.map((fault) => fault.code).join(' '),
    };
    return COLUMNS.map((column) => {
      const cell = cells[column];
      return cell === null || cell === undefined
        ? ''
        : typeof cell === 'number'
          ? String(Number(cell.toPrecision(8)))
          : cell;
    });
  });
}
