/** The second pass of reading: windows reduced wherever the pixels of an open picture are held. */
import type { ReadPlan, Reduced } from './asked';
import { reduceWindow } from './requests';
import type { OpenPicture } from './source';

/** One reduction for each request, in order. Rejects with UnreadablePicture. */
export async function reduceOpened(picture: OpenPicture, plan: ReadPlan): Promise<Reduced[]> {
  if (picture.reduce) return picture.reduce(plan);
  const windows = await picture.windows(plan.requests.map((request) => request.pixels));
  return windows.map((window, i) => reduceWindow(window, plan.requests[i], picture.facts.width, plan.decoding));
}
