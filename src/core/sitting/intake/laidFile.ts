/** What laying files on takes is about. */
import type { Look } from './look';

export interface FileToLay {
  path: string;
  /** ISO 8601, where the file knows it. */
  capturedAt: string | null;
  /** log2 of t·ISO/N², where it is known. */
  exposureLog2: number | null;
  /** log2 of the picture's mean luminance. */
  lightLog2: number | null;
  look: Look | null;
}

/** A take, or a filter on a scene, that files may belong to. */
export interface Spot {
  id: string;
  filter: string | null;
  scene: string;
  kind: string;
  bracket?: boolean;
  /** As planned or logged. */
  exposureLog2?: number | null;
  /** Of the log, milliseconds. */
  at?: number | null;
  ringDegrees?: number;
  mark?: number;
  /** Score it has before anything is known: below 0 for what is seldom meant. */
  prior?: number;
}

/** A take of a session, or a new one of a filter on a scene. */
export type TakeSpot = Spot & {
  take: string | null;
  /** Id of a planned take that has no footage yet. */
  planned?: string;
};

export interface Candidate {
  place: string;
  score: number;
  /** What speaks for it and against it, strongest first, parts of sentences. */
  reasons: string[];
}

export interface LaidFile {
  path: string;
  /** Where it is laid; the likeliest place where it is not sure. */
  place: string | null;
  sure: boolean;
  /** Why it is asked, a sentence; empty where it is sure. */
  doubt: string;
  /** The likeliest places, best first. */
  candidates: Candidate[];
}

export interface Laying {
  files: LaidFile[];
  /** The camera's clock minus the log's, seconds, where both are known and agree among the files. */
  clockOffsetSeconds: number | null;
}

/** A file whose place is known: it tells how bright bare is, and what a scene looks like. */
export interface KnownFile extends FileToLay {
  filter: string | null;
  scene: string;
}

/** What speaks for a place, or against it. */
export interface Evidence {
  score: number;
  words: string;
}

/** Indexes in the order in which the files were taken: by time where all have one, else by their names as people count. */
export function inRow(files: readonly FileToLay[]): number[] {
  const order = files.map((_, i) => i);
  return files.every((file) => file.capturedAt !== null)
    ? order.sort((a, b) => Date.parse(files[a].capturedAt!) - Date.parse(files[b].capturedAt!))
    : order.sort((a, b) => files[a].path.localeCompare(files[b].path, 'en', { numeric: true }));
}
