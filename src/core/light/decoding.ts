/** Tables from code to linear light of a session's files: made once an encoding and bit depth. */
import {
  invert,
  luminanceRow,
  multiply,
  resolveColorSpace,
  type Matrix3,
  type Vector3,
} from '../formulas/color/spaces';
import {
  isRawTransfer,
  resolveResponse,
  responseTables,
  ResponseError,
  type FileEncoding,
  type ResolvedResponse,
} from './response';
import type { PictureFacts } from '../reading/facts';
import { SessionError } from '../session/parse';
import type { Session } from '../session/schema';

export type Tables = [Float64Array, Float64Array, Float64Array];

/** Everything that turns code values into the session's light: plain data, so that another thread can use it. */
export interface Decoding {
  tables: Tables;
  /** From the file's own primaries to the session's; `null` where they agree or aren't known. */
  conversion: Matrix3 | null;
  /** Weights of R, G, B in luminance. */
  luminance: Vector3;
  /** Names the decoding: figures reduced under one name may be kept for another session. */
  name: string;
}

/** What decides how a file's codes become light. */
export type CodedFacts = Pick<PictureFacts, 'encoding'> & Partial<Pick<PictureFacts, 'compression' | 'clip'>>;

export interface TableCache {
  decodingOf(facts: CodedFacts & { bitDepth: number }): Decoding;
  responseOf(facts: CodedFacts): ResolvedResponse;
  /** Matrix from the file's own primaries to the session's; `null` where they agree or aren't known. */
  conversion(encoding: FileEncoding): Matrix3 | null;
  description(): string;
}

/**
 * @param curves text of curve files by path
 * @param recovered the response recovered from the session's bracket, where it asks for one, or learned of its pictures
 * @param holdsFor which files' codes it stands for; raw files never, all others when left out
 */
export function tableCache(
  session: Session,
  curves: ReadonlyMap<string, string>,
  recovered: ResolvedResponse | null,
  holdsFor: (facts: CodedFacts) => boolean = () => true,
): TableCache {
  const resolved = new Map<string, ResolvedResponse>();
  const made = new Map<string, Decoding>();
  const luminance = luminanceRow(resolveColorSpace(session.rig.colorSpace));
  const target = typeof session.rig.colorSpace === 'string' ? resolveColorSpace(session.rig.colorSpace) : null;
  const { response: asked } = session.rig;
  const responseOf = (facts: CodedFacts): ResolvedResponse => {
    const { encoding } = facts;
    const raw = isRawTransfer(encoding.transfer);
    if (recovered && !raw && holdsFor(facts)) return recovered;
    // A raw file is linear whatever is asked. A bracket that told nothing leaves what the files say.
    const wanted = raw || asked.kind === 'bracket' ? ({ kind: 'file' } as const) : asked;
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
  const conversion = (encoding: FileEncoding): Matrix3 | null => {
    if (!target || !encoding.toXyz) return null;
    const matrix = multiply(invert(target.toXyz), encoding.toXyz as unknown as Matrix3);
    const identity = [1, 0, 0, 0, 1, 0, 0, 0, 1];
    return matrix.every((value, i) => Math.abs(value - identity[i]) < 0.01) ? null : matrix;
  };
  return {
    responseOf,
    decodingOf(facts) {
      const { encoding, bitDepth } = facts;
      const response = responseOf(facts);
      const key = `${response === recovered ? 'bracket' : [...resolved.values()].indexOf(response)}/${bitDepth}/${JSON.stringify(encoding.toXyz)}`;
      let decoding = made.get(key);
      if (!decoding) {
        const tables = responseTables(response, bitDepth);
        const matrix = conversion(encoding);
        const name = `${fingerprint(tables)}/${JSON.stringify([matrix, luminance])}`;
        made.set(key, (decoding = { tables, conversion: matrix, luminance, name }));
      }
      return decoding;
    },
    conversion,
    description: () =>
      recovered?.description ??
      ([...new Set([...resolved.values()].map((one) => one.description))].join(', ') || asked.kind),
  };
}

/** How one file's codes become light, for a response that needs neither a file nor a bracket. Throws SessionError. */
export function decodingFor(session: Session, encoding: FileEncoding, bitDepth: number): Decoding {
  return tableCache(session, new Map(), null).decodingOf({ encoding, bitDepth });
}

/** A short name for the content of tables: two 32-bit sums, each byte stirred in (FNV-1a, two seeds). */
function fingerprint(tables: Tables): string {
  let [first, second] = [0x811c9dc5, 0x1b873593];
  for (const table of new Set(tables)) {
    const words = new Uint32Array(table.buffer, table.byteOffset, table.byteLength / 4);
    for (const word of words) {
      first = Math.imul(first ^ word, 0x01000193);
      second = Math.imul(second ^ (word >>> 3) ^ (first >>> 16), 0x85ebca6b);
    }
    first ^= table.length;
  }
  return `${(first >>> 0).toString(36)}${(second >>> 0).toString(36)}`;
}
