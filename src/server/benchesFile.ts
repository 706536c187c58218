/** From a table of readings to a bench: the columns of `readings.csv`. */
import { parse } from 'csv-parse/sync';
import { benchOfRows, type BenchRead } from '@/core/judging/agreement/otherBench';
import { fromText } from './csv';

/** Reads a table's text, whatever its cells are parted by; what it can't read is told, never thrown. */
export function readTable(text: string): BenchRead {
  const trimmed = text.replace(/^\uFEFF/, '').trim();
  if (trimmed === '') return { filters: [], problems: ['The file is empty.'] };
  try {
    const first = trimmed.split('\n', 1)[0];
    const delimiter = first.includes('\t') ? '\t' : first.includes(';') ? ';' : ',';
    const rows = parse(trimmed, { delimiter, relaxColumnCount: true, skipEmptyLines: true }) as string[][];
    return benchOfRows(rows.map((row) => row.map(fromText)));
  } catch (error) {
    return { filters: [], problems: [`The file can’t be read as CSV: ${(error as Error).message}.`] };
  }
}
