/** What a chosen file holds, as far as the browser reads it: readings of JSON are large for what is taken of them. */
import { benchOfReadings, type BenchFilter } from '@/core/judging/agreement/otherBench';
import { readingsSchema } from '@/core/session/readings';

/** Larger than any table of figures; what one request may carry. */
const MOST_TABLE = 900_000;
const MOST_JSON = 50_000_000;

export type FileRead = { table: string } | { filters: BenchFilter[] } | { problem: string };

export async function readFile(file: Pick<File, 'size' | 'text'>): Promise<FileRead> {
  if (file.size > MOST_JSON) return { problem: 'The file is too large to be a list of figures.' };
  const text = (await file.text()).replace(/^\uFEFF/, '').trim();
  if (!/^[[{]/.test(text))
    return text.length > MOST_TABLE ? { problem: 'The file is too large to be a table of figures.' } : { table: text };
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch (error) {
    return { problem: `The file looks like JSON and can’t be read: ${(error as Error).message}.` };
  }
  const readings = readingsSchema.safeParse(document);
  if (!readings.success)
    return { problem: 'This JSON is no file of readings (readings.glade.json, which a measured session gives).' };
  const { filters } = benchOfReadings(readings.data);
  if (filters.length === 0) return { problem: 'There is no figure in these readings: all were withheld.' };
  return { filters };
}

/** "mill-lane readings.csv" → "mill lane readings": a name to begin with. */
export const nameOfFile = (file: string) =>
  file
    .replace(/\.[a-z0-9.]+$/i, '')
    .replace(/[-_]+/g, ' ')
    .trim()
    .slice(0, 120);
