/** Readings of other people's benches: taken in from their files and kept apart as theirs. */
import { z } from 'zod';
import { readingSchema, type FilterReadings, type Reading, type Readings } from '../../session/readings';
import { FOLLOWED, figureOf, type Followed } from '../overTime/lives';

const QUALITIES = Object.keys(FOLLOWED) as Followed[];
export const MOST_FILTERS = 2000;

const benchFilterSchema = z.object({
  kit: z.string().max(200).describe('Name of the kit, as its bench has it.'),
  filter: z.string().min(1).max(200),
  label: z.number().nullable().describe('What the label says, stops.'),
  figures: z.partialRecord(z.enum(QUALITIES), readingSchema),
});

/** A bench of somebody else: its name, the file that its figures came in, and the figures. */
export const otherBenchSchema = z.object({
  name: z.string().trim().min(1, 'a bench needs a name.').max(120, 'a bench’s name has at most 120 letters.'),
  file: z.string().max(200),
  filters: z
    .array(benchFilterSchema)
    .min(1, 'there is no figure in it.')
    .max(MOST_FILTERS, `at most ${MOST_FILTERS} filters a bench.`),
});

export type BenchFilter = z.infer<typeof benchFilterSchema>;
export type OtherBench = z.infer<typeof otherBenchSchema>;

/** Columns of `readings.csv` that are taken in; the ± stands in the column of the same name with `_u95`. */
export const COLUMN: Record<Followed, string> = {
  strength: 'stops',
  'warm/cool (b*)': 'cast_b',
  'green/magenta (a*)': 'cast_a',
  'sharpness kept': 'sharpness_kept',
  'darkest corner': 'darkest_corner_stops',
};

export interface BenchRead {
  filters: BenchFilter[];
  /** What could not be read, a sentence each. */
  problems: string[];
}

/**
 * Filters of a table: a row a filter, with the columns `filter`, and `kit`, `label_stops` and figures with their ± as `readings.csv` has them.
 * A figure without a ± is left out and told: nothing can be said to agree with it.
 *
 * @param rows the first holds the columns' names
 */
export function benchOfRows(rows: readonly (readonly string[])[]): BenchRead {
  const head = (rows[0] ?? []).map((one) => one.trim().toLowerCase());
  const at = (column: string) => head.indexOf(column);
  if (at('filter') < 0) return { filters: [], problems: ['There is no column “filter”.'] };
  const told = QUALITIES.filter((quality) => at(COLUMN[quality]) >= 0);
  if (told.length === 0)
    return {
      filters: [],
      problems: [`There is no column of figures: ${QUALITIES.map((one) => `“${COLUMN[one]}”`).join(', ')}.`],
    };
  const problems: string[] = [];
  const filters = rows.slice(1).flatMap((row, i): BenchFilter[] => {
    const cell = (column: string) => (at(column) < 0 ? '' : (row[at(column)] ?? '').trim());
    const filter = cell('filter').slice(0, 200);
    if (filter === '') {
      if (row.some((one) => one.trim() !== '')) problems.push(`Row ${i + 2} names no filter.`);
      return [];
    }
    const figures: BenchFilter['figures'] = {};
    for (const quality of told) {
      const [value, u95] = [cell(COLUMN[quality]), cell(`${COLUMN[quality]}_u95`)];
      if (value === '') continue;
      const [read, within] = [numberOf(value), numberOf(u95)];
      if (read === null)
        problems.push(`Row ${i + 2}, ${filter}: “${value.slice(0, 40)}” in ${COLUMN[quality]} is no number.`); // prettier-ignore
      else if (within === null || within < 0)
        problems.push(`Row ${i + 2}, ${filter}: ${COLUMN[quality]} has no ± in ${COLUMN[quality]}_u95.`);
      else figures[quality] = { value: read, u95: within };
    }
    if (Object.keys(figures).length === 0) return [];
    return [{ kit: cell('kit').slice(0, 200), filter, label: numberOf(cell('label_stops')), figures }];
  });
  return { filters, problems };
}

/** Filters of a readings file. It holds no names, so ids stand for them. */
export function benchOfReadings({ filters }: Readings): BenchRead {
  const found = filters.flatMap((one): BenchFilter[] => {
    const figures = figuresOf(one);
    if (Object.keys(figures).length === 0) return [];
    return [{ kit: one.kit.slice(0, 200), filter: one.filter.slice(0, 200), label: one.nominalStops, figures }];
  });
  return { filters: found, problems: [] };
}

/** The figures of a filter that benches are compared by. */
export function figuresOf(one: FilterReadings): Partial<Record<Followed, Reading>> {
  const figures: Partial<Record<Followed, Reading>> = {};
  for (const quality of QUALITIES) {
    const reading = figureOf(one, quality);
    if (reading) figures[quality] = { value: reading.value, u95: reading.u95 };
  }
  return figures;
}

/** A number with a point or a comma; `null` for what is none. */
function numberOf(text: string): number | null {
  const value = Number(/^[-+−]?\d+,\d+$/.test(text) ? text.replace(',', '.') : text.replace('−', '-'));
  return text !== '' && Number.isFinite(value) ? value : null;
}
