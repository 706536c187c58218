/** Tables from code to linear light of a session's files: made once an encoding and bit depth. */
import { apply, invert, multiply, resolveColorSpace, type Matrix3, type Vector3 } from '../color';
import { resolveResponse, responseTables, ResponseError, type FileEncoding, type ResolvedResponse } from '../light';
import type { PatchStatistics, Triple } from '../patches';
import { SessionError, type Session } from '../session';

export type Tables = [Float64Array, Float64Array, Float64Array];

export interface TableCache {
  responseOf(encoding: FileEncoding): ResolvedResponse;
  of(encoding: FileEncoding, bitDepth: number): Tables;
  /** Matrix from the file's own primaries to the session's; `null` where they agree or aren't known. */
  conversion(encoding: FileEncoding): Matrix3 | null;
  description(): string;
}

/**
 * @param curves text of curve files by path
 * @param recovered the response recovered from the session's bracket, where it asks for one
 */
export function tableCache(
  session: Session,
  curves: ReadonlyMap<string, string>,
  recovered: ResolvedResponse | null,
): TableCache {
  const resolved = new Map<string, ResolvedResponse>();
  const made = new Map<string, Tables>();
  const target = typeof session.rig.colorSpace === 'string' ? resolveColorSpace(session.rig.colorSpace) : null;
  const { response: asked } = session.rig;
  const responseOf = (encoding: FileEncoding): ResolvedResponse => {
    if (recovered) return recovered;
    // A bracket that told nothing leaves what the files say.
    const wanted = asked.kind === 'bracket' ? ({ kind: 'file' } as const) : asked;
    const key = wanted.kind === 'file' ? JSON.stringify(encoding.transfer) : 'session';
    let response = resolved.get(key);
    if (!response) {
      try {
        response = resolveResponse(wanted, encoding, (path) => curves.get(path) ?? '');
      } catch (error) {
        if (error instanceof ResponseError || error instanceof RangeError)
          throw new SessionError([`rig.response: ${error.message}`]);
        throw error;
      }
      resolved.set(key, response);
    }
    return response;
  };
  return {
    responseOf,
    of(encoding, bitDepth) {
      const response = responseOf(encoding);
      const key = `${recovered ? 'bracket' : [...resolved.values()].indexOf(response)}/${bitDepth}`;
      if (!made.has(key)) made.set(key, responseTables(response, bitDepth));
      return made.get(key)!;
    },
    conversion(encoding) {
      if (!target || !encoding.toXyz) return null;
      const matrix = multiply(invert(target.toXyz), encoding.toXyz as unknown as Matrix3);
      const identity = [1, 0, 0, 0, 1, 0, 0, 0, 1];
      return matrix.every((value, i) => Math.abs(value - identity[i]) < 0.01) ? null : matrix;
    },
    description: () =>
      recovered?.description ??
      ([...new Set([...resolved.values()].map((one) => one.description))].join(', ') || asked.kind),
  };
}

/** Linear light in the session's primaries: matrices act on means as they do on pixels. */
export function convertPrimaries(statistics: PatchStatistics, matrix: Matrix3 | null): PatchStatistics {
  if (!matrix) return statistics;
  const mean = apply(matrix, statistics.mean) as unknown as Triple;
  const values = statistics.cells.values.map(
    (cells) => new Float64Array(cells.length),
  ) as PatchStatistics['cells']['values'];
  for (let cell = 0; cell < values[0].length; cell++) {
    const converted = apply(matrix, statistics.cells.values.map((cells) => cells[cell]) as unknown as Vector3);
    converted.forEach((light, c) => (values[c][cell] = light));
  }
  return { ...statistics, mean, cells: { ...statistics.cells, values } };
}
