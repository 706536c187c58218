/** A report as its author writes it: which sessions, and texts of their own; figures are never part of the texts. */
import { z } from 'zod';
import { carryAskSchema } from '../judging/carry/asked';

const text = z.string().max(20_000).default('');

/** Pictures of a report at most: it is one page that holds them all. */
export const MOST_PICTURES = 24;

/** Questions of what to carry that a report answers at most. */
const MOST_CARRIED = 6;

const reportPicture = z.looseObject({
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  caption: z.string().max(500).default(''),
});
export type ReportPicture = z.infer<typeof reportPicture>;

export const reportSchema = z.looseObject({
  title: z.string().min(1, 'Give the report a title.').max(300),
  sessions: z
    .array(z.string())
    .min(1, 'Choose a session at least.')
    .max(40)
    .describe('Sessions whose figures it shows, by id.'),
  question: text,
  disclosure: text,
  method: text,
  conditions: text,
  findings: text,
  limits: text,
  pictures: z
    .array(reportPicture)
    .max(MOST_PICTURES, `A report holds ${MOST_PICTURES} pictures; take one out first.`)
    .default([])
    .describe('Saved views of Compare, in their order.'),
  carry: z
    .array(carryAskSchema)
    .max(MOST_CARRIED, `A report answers ${MOST_CARRIED} times what to carry; take one out first.`)
    .default([])
    .describe('What was asked of “What to carry”; it is answered by the figures of the day.'),
  paper: z.enum(['A4', 'Letter']).default('A4'),
});

export type Report = z.infer<typeof reportSchema>;

/** The texts that can be written, in the order in which they stand, with what belongs there. */
export const REPORT_TEXTS = [
  { key: 'question', name: 'The question', hint: 'What the test was to find out.' },
  {
    key: 'disclosure',
    name: 'Disclosure',
    hint: 'Who paid for the kit, who lent or gave it, and what was asked for it.',
  },
  { key: 'conditions', name: 'Conditions', hint: 'Where, in which light, with what.' },
  { key: 'findings', name: 'What I make of it', hint: 'Your own words beside the figures.' },
  { key: 'method', name: 'Method, in addition', hint: 'What you did otherwise than the standing text says.' },
  { key: 'limits', name: 'What was not measured', hint: 'In addition to what the figures themselves withhold.' },
] as const;

/** How figures come about, in words that viewers of a video understand. */
export const METHOD_IN_SHORT = [
  'The same scene was shot without a filter and with each one, and the camera’s codes were turned back into amounts of light.',
  'How much darker a picture with a filter is, after its longer exposure is counted in, is the filter’s strength in stops: each stop halves the light. The light itself is watched by bare pictures in between.',
  'Color is the difference between red, green and blue: ΔE00 below 1 an eye hardly sees, above 5 nobody misses. Sharpness kept is how fine an edge stays; corners are how much darker they get than the middle, beyond the lens’s own.',
  'Every figure has a ±: the truth lies inside it in 95 of 100 cases. A verdict is only given where the whole ± lies inside its bounds; where pictures can’t carry a figure, there is none, and the reason stands below.',
] as const;

/** How anybody can check it. */
export const HOW_TO_REPEAT = [
  'Shoot a gray surface without the filter, then with it, from a tripod, in light that doesn’t change; then without it again.',
  'Let the shutter alone change, and note it. The shutter that makes both pictures as bright tells most of the strength: 1/1000 s to 1/125 s is three stops.',
  'Compare the two pictures’ gray in linear light. A kit that differs from these figures by more than both ± is another kit.',
] as const;
