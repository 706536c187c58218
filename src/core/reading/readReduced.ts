/** Reading and reducing a picture in one step, wherever its pixels are held. */
import type { Preview } from '../laying/preview';
import type { PictureFacts, PictureSource } from './source';
import { reduceWindow, type Reduced, type WindowRequest } from './reduce';
import type { Decoding } from './decoding';

/** What to take from a picture, told once its size and view are known. */
export interface ReadPlan {
  requests: WindowRequest[];
  decoding: Decoding;
}
export type PlanReading = (facts: PictureFacts, preview: Preview | null) => ReadPlan;

export interface ReducedPicture {
  facts: PictureFacts;
  preview: Preview | null;
  /** One for each request, in order. */
  reduced: Reduced[];
}

/** Rejects with UnreadablePicture. */
export type ReadReduced = (file: string, plan: PlanReading, signal?: AbortSignal) => Promise<ReducedPicture>;

/** Reads a picture and reduces its windows, by the source's own way or here. */
export async function readReduced(
  source: PictureSource,
  file: string,
  plan: PlanReading,
  signal?: AbortSignal,
): Promise<ReducedPicture> {
  return source.readReduced ? source.readReduced(file, plan, signal) : reduceHere(source, file, plan, signal);
}

/** Reads a picture's windows and reduces them in place. */
export async function reduceHere(
  source: Pick<PictureSource, 'read'>,
  file: string,
  plan: PlanReading,
  signal?: AbortSignal,
): Promise<ReducedPicture> {
  let planned: ReadPlan | null = null;
  let view: Preview | null = null;
  const { facts, windows } = await source.read(
    file,
    (found, preview) => {
      view = preview;
      planned = plan(found, preview);
      return planned.requests.map((request) => request.pixels);
    },
    signal,
  );
  const { requests, decoding } = planned!;
  return {
    facts,
    preview: view,
    reduced: windows.map((window, i) => reduceWindow(window, requests[i], facts.width, decoding)),
  };
}
