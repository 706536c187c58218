/** A kit as a reviewer keeps it: the session file's kit, with how it was obtained, what it weighs and how it handles. */
import { z } from 'zod';
import { describeNominal, type FilterKind, type Nominal } from '../../session/notation';
import { parseKitShorthand } from './shorthand';
import { filterSchema, kitSchema } from '../../session/schema';

/** How a kit came to the reviewer; a report says so. */
export const OBTAINED = ['bought', 'lent', 'given', 'own make'] as const;
export type Obtained = (typeof OBTAINED)[number];

/** Common checks of handling, each answered yes or no: key, question, and the answer that a good filter gives. */
export const HANDLING = [
  { key: 'fit', question: 'Fits snugly', good: true },
  { key: 'marks', question: 'Marks readable', good: true },
  { key: 'glass', question: 'Glass touched when turning', good: false },
  { key: 'gimbal', question: 'Gimbal starts without overload', good: true },
  { key: 'coating', question: 'Coating outside', good: true },
  { key: 'spots', question: 'Scratches or bright spots', good: false },
  { key: 'shaken', question: 'Falls off when shaken', good: false },
] as const;

/** What happens to a filter over the years; one that was replaced is another sample from then on. */
export const EVENTS = ['dropped', 'cleaned', 'replaced'] as const;
export const filterEventSchema = z.object({ date: z.iso.date().describe('The day.'), what: z.enum(EVENTS) });
export type FilterEvent = z.infer<typeof filterEventSchema>;

/** Years in which a filter can have been bought; beyond them a digit too many was typed. */
export const EARLIEST_YEAR = 1900;
export const LATEST_YEAR = 2100;

export const keptFilterSchema = filterSchema.extend({
  massGrams: z.number().positive().max(100_000).optional(),
  price: z.number().min(0).optional().describe("Of this filter alone, in the kit's currency."),
  serial: z.string().max(100).optional().describe('Serial number or batch, as engraved.'),
  handling: z.partialRecord(z.enum(HANDLING.map((one) => one.key)), z.boolean()).optional(),
  events: z.array(filterEventSchema).max(200).optional().describe('What happened to it, day by day.'),
  notes: z.string().optional(),
  photos: z.array(z.looseObject({ sha256: z.string().regex(/^[0-9a-f]{64}$/), name: z.string() })).optional(),
});

export const keptKitSchema = kitSchema
  .extend({
    obtained: z.enum(OBTAINED).optional(),
    mount: z.string().max(100).optional().describe('Thread or mount that it fits: "67 mm thread", "clips on".'),
    year: z.number().int().min(EARLIEST_YEAR).max(LATEST_YEAR).optional().describe('When it came to the reviewer.'),
    notes: z.string().optional(),
    filters: z.array(keptFilterSchema),
  })
  .superRefine(({ filters }, context) => {
    const seen = new Set<string>();
    for (const { id } of filters) {
      if (seen.has(id)) context.addIssue(`Two filters have the id “${id}”.`);
      seen.add(id);
    }
  });

export type KeptKit = z.infer<typeof keptKitSchema>;
export type KeptFilter = z.infer<typeof keptFilterSchema>;

/** What a table's cell says of a filter's strength; "unmarked" for none. */
export const labelOf = (filter: Pick<KeptFilter, 'kind' | 'nominal'>): string => {
  const { nominal, kind } = filter;
  const plain = describeNominal(nominal);
  if (kind === 'polarizer') return plain === 'unmarked' ? 'CPL' : plain;
  if (kind === 'clear') return 'clear';
  if (kind === 'infrared-cut') return 'IR cut';
  return plain;
};

/**
 * Reads a strength in any notation.
 *
 * @returns kind and strength, or a sentence that says what to write
 */
export function readLabel(text: string): { kind: FilterKind; nominal: Nominal; name: string } | { problem: string } {
  const trimmed = text.trim();
  if (trimmed === '') return { kind: 'nd', nominal: {}, name: 'unmarked' };
  // "D 0.9" and "3 stops" are what the program itself writes.
  const { filters, problems } = parseKitShorthand(trimmed);
  if (problems.length > 0) return { problem: problems[0].message };
  if (filters.length !== 1)
    return { problem: `“${trimmed}” names ${filters.length} filters; write one strength in a row.` };
  const { kind, nominal, name } = filters[0];
  return { kind, nominal, name };
}

/** An id for a new filter, from its name, unlike those in use. */
export function freshId(name: string, used: Iterable<string>): string {
  const taken = new Set(used);
  const base =
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'filter';
  let id = base;
  for (let n = 2; taken.has(id); n++) id = `${base}-${n}`;
  return id;
}

/** Filters of a typed line, as rows that can be added to a kit. */
export function filtersOfShorthand(
  text: string,
  used: Iterable<string>,
): { filters: KeptFilter[]; problems: string[] } {
  const { filters, problems } = parseKitShorthand(text);
  const ids = new Set(used);
  return {
    filters: filters.map(({ name, kind, nominal }) => {
      const id = freshId(name, ids);
      ids.add(id);
      return { id, name, kind, nominal: { ...nominal } };
    }),
    problems: problems.map((one) => one.message),
  };
}

/** Answers of handling that a good filter wouldn't give, as questions; what nobody answered says nothing. */
export function handlingFlaws({ handling }: Pick<KeptFilter, 'handling'>): string[] {
  return HANDLING.flatMap(({ key, question, good }) => {
    const answer = handling?.[key];
    return answer === undefined || answer === good
      ? []
      : [good ? `not: ${question.toLowerCase()}` : question.toLowerCase()];
  });
}

const DISCLOSED: Record<Obtained, string> = {
  bought: 'bought by the reviewer',
  lent: 'lent for the review',
  given: 'given to the reviewer free of charge',
  'own make': 'made by the reviewer',
};

/** How a kit of a session came to the reviewer, in words; `null` where nobody has said. Sessions keep what the shelf's kit says. */
export function disclosureOf(kit: { obtained?: unknown }): string | null {
  const known = OBTAINED.find((one) => one === kit.obtained);
  return known ? DISCLOSED[known] : null;
}
