/** How coarsely a clip's key frame keeps means, from the quantizers in its headers (ITU-T H.264, H.265; read by ffmpeg's `trace_headers`). */
import type { MeanSteps } from '@/core/light/camera/compression';
import { ChildFailed, runChild } from '../children';
import { CLIP_LIMITS, SAFE_INPUT } from './limits';

/** Chroma's quantizer by luma's from 30 on: H.264 table 8-15; H.265 table 8-10, six less than luma's beyond it. From memory. */
const CHROMA_264 = [29, 30, 31, 32, 32, 33, 34, 34, 35, 35, 36, 36, 37, 37, 37, 38, 38, 38, 39, 39, 39, 39];
const CHROMA_265 = [29, 30, 31, 32, 33, 33, 34, 34, 35, 35, 36, 36, 37, 37];
const CODECS: Readonly<Record<string, readonly number[]>> = { h264: CHROMA_264, hevc: CHROMA_265 };

/** Least and largest quantizer that headers may tell: beyond them something else was read. */
const PARAMETERS = { least: -36, most: 63 };

export interface CodedAs {
  codec: string;
  bits: number;
  range: 'limited' | 'full';
}

/** Reads the steps of a clip's first key frame; `null` for codecs that aren't known here, or headers that can't be read. */
export async function readClipSteps(path: string, coded: CodedAs): Promise<MeanSteps | null> {
  if (!CODECS[coded.codec]) return null;
  const words = ['-nostdin', '-v', 'info', ...SAFE_INPUT, '-i', `file:${path}`, '-map', '0:v:0', '-c', 'copy'];
  try {
    const said = await runChild('ffmpeg', [...words, '-bsf:v', 'trace_headers', '-frames:v', '1', '-f', 'null', '-'], {
      ...CLIP_LIMITS,
      output: 4_000_000,
      reads: path,
      reports: 'stderr',
    });
    return stepsToldBy(said.toString('latin1'), coded);
  } catch (error) {
    if (error instanceof ChildFailed) return null;
    throw error;
  }
}

/**
 * Steps of means from traced headers. A step of a quantizer QP is 2^((QP − 4)/6) codes of 8 bits at any depth; the mean of a block of
 * 8 × 8 moves by an eighth of it.
 */
export function stepsToldBy(headers: string, { codec, bits, range }: CodedAs): MeanSteps | null {
  const all = (name: string) =>
    [...headers.matchAll(new RegExp(`\\b${name}\\b.*= (-?\\d+)\\s*$`, 'gm'))].map((one) => Number(one[1]));
  const [initial] = all(codec === 'h264' ? 'pic_init_qp_minus26' : 'init_qp_minus26');
  const deltas = all('slice_qp_delta');
  if (initial === undefined || deltas.length === 0) return null;
  // Of several slices the coarsest speaks.
  const luma = 26 + initial + Math.max(...deltas);
  if (!(luma >= PARAMETERS.least && luma <= PARAMETERS.most)) return null;
  const offset = (name: string) => all(name)[0] ?? 0;
  const offsets =
    codec === 'h264'
      ? [offset('chroma_qp_index_offset'), offset('second_chroma_qp_index_offset')]
      : [offset('pps_cb_qp_offset'), offset('pps_cr_qp_offset')];
  const stored = range === 'limited' ? { luma: 255 / 219, chroma: 255 / 224 } : { luma: 1, chroma: 1 };
  const step = (parameter: number, scale: number) => (scale * 2 ** ((parameter - 4) / 6)) / 8;
  const chroma = (own: number) => step(chromaParameter(luma + own, CODECS[codec]), stored.chroma);
  return {
    luma: step(luma, stored.luma),
    blue: chroma(offsets[0]),
    red: chroma(offsets[1]),
    whole: stored.luma * 2 ** (8 - bits),
  };
}

function chromaParameter(luma: number, table: readonly number[]): number {
  if (luma < 30) return luma;
  return table[luma - 30] ?? luma - 6;
}
