/** Tables as CSV that a spreadsheet may open: RFC 4180, and no cell becomes a formula. */
import { stringify } from 'csv-stringify/sync';

/** What spreadsheets take for the beginning of a formula; full-width forms are read alike by some. */
const FORMULA = /^[=+\-@\t\r\uFF1D\uFF0B\uFF0D\uFF20]/;
/** A number is none. */
const NUMBER = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i;

/** A cell as it is written: what would be a formula is marked as text, as spreadsheets themselves mark it. */
function asText(cell: string): string {
  return FORMULA.test(cell) && !NUMBER.test(cell) ? `'${cell}` : cell;
}

/** A cell as it was before {@link csvText} wrote it. */
export function fromText(cell: string): string {
  return cell.startsWith("'") && asText(cell.slice(1)) === cell ? cell.slice(1) : cell;
}

/** Rows as CSV, lines ended as spreadsheets do. */
export function csvText(rows: readonly (readonly string[])[]): string {
  return stringify(
    rows.map((row) => row.map(asText)),
    // A line feed alone ends no row, but readers take it for an end unless it is quoted.
    { record_delimiter: 'windows', quoted_match: /[\r\n]/ },
  );
}
