/**
 * One picture that lies in a session more than once: a copy from the card, a file that was dropped on two takes. Noise alone makes any two
 * exposures differ, so files of the same content are one exposure. As repeats they would make a ± smaller that has no right to it; under two
 * filters one of them is in the wrong place, and the figure that would come of the typed exposures looks like any other. Pictures that were
 * computed without noise may well be alike: what has none, and doesn't say that a camera took it, is told, and stays.
 */
import { group } from 'd3-array';
import { parseShutter } from '../formulas/optics/exposure';
import type { Session, Take } from '../session/schema';
import { samePictureElsewhere, samePictureTwice } from '../words/reading';
import type { FoundFault } from './observations';
import type { OpenPicture, PictureSource } from './source';
import type { Picture } from './window';

/** A file where a take names it. */
interface Entry {
  take: Take;
  index: number;
  file: string;
}

/** What a take says of its picture: of one exposure two answers can't both be right. */
function saidBy({ filter, setting, exposure: { shutter, iso, fNumber } }: Take): string {
  const seconds = shutter === undefined ? null : parseShutter(shutter);
  return JSON.stringify([filter, setting?.mark, setting?.ringDegrees, seconds, iso ?? null, fNumber ?? null]);
}

/** Parts of one clip that have nothing in common are different pictures. */
function overlap({ take: { span: a } }: Entry, { take: { span: b } }: Entry): boolean {
  return !a || !b || (a.from < b.to && b.from < a.to);
}

/** Files that lie there more than once, each group of one content. Sources that can't compare tell the same path alone. */
async function groupsOf(session: Session, source: PictureSource): Promise<Entry[][]> {
  const entries = session.takes
    // A bracket may have a bare picture in it that is measured, too.
    .filter(({ role }) => role !== 'bracket')
    .flatMap((take) => take.files.map((file, index): Entry => ({ take, index, file })));
  const contents = await source.contentsOf?.([...new Set(entries.map(({ file }) => file))]);
  const byContent = group(entries, ({ file }) => contents?.get(file) ?? file);
  return [...byContent.values()].filter((same) => same.length > 1);
}

/** Entries that say different things of one picture: none of them is believed. */
const contradicted = (same: readonly Entry[]) =>
  same.filter((one) => same.some((other) => overlap(one, other) && saidBy(one.take) !== saidBy(other.take)));

/** Entries that say once more what an earlier one says of the same scene. */
const repeated = (same: readonly Entry[]) =>
  same.filter((one, i) =>
    same.slice(0, i).some((earlier) => earlier.take.scene === one.take.scene && overlap(earlier, one)),
  );

/** Places that tell whether a picture has noise, shares of its frame. */
const LOOKED_AT = [
  [0.3, 0.3],
  [0.5, 0.5],
  [0.7, 0.6],
] as const;
const LOOK = { width: 96, height: 24 };
/** Of the steps between neighbors in a row so many turn back at least where there is noise (two of three where it is white); hardly any on what is even. */
const TURNS_SHARE = 0.2;
const LEAST_STEPS = 50;

/** Whether neighbors go up and down by chance, as on every sensor. */
function hasNoise({ width, height, channels, data }: Picture): boolean {
  let [steps, turns] = [0, 0];
  for (let y = 0; y < height; y++) {
    let before = 0;
    for (let x = 1; x < width; x++) {
      const at = (y * width + x) * channels + (channels >> 1);
      const step = Math.sign(data[at] - data[at - channels]);
      if (step === 0) continue;
      steps++;
      if (step === -before) turns++;
      before = step;
    }
  }
  return steps >= LEAST_STEPS && turns > TURNS_SHARE * steps;
}

/** Whether a camera took a file: it says so, or has noise. One that can't be read is told elsewhere. */
async function isOfCamera(file: string, source: PictureSource): Promise<boolean> {
  let picture: OpenPicture | null = null;
  try {
    picture = await source.open(file);
    const { raw, capturedAt, exposure, width, height } = picture.facts;
    if (raw === true || capturedAt !== null || exposure.shutterSeconds !== undefined) return true;
    const size = { width: Math.min(LOOK.width, width), height: Math.min(LOOK.height, height) };
    const rects = LOOKED_AT.map(([x, y]) => ({
      x: Math.floor(x * (width - size.width)),
      y: Math.floor(y * (height - size.height)),
      ...size,
    }));
    return (await picture.windows(rects)).some(hasNoise);
  } catch {
    return false;
  } finally {
    picture?.close();
  }
}

/**
 * A session without pictures of a camera that lie in it twice: of one thing the first stays, where takes contradict each other none does. A
 * picture may serve several scenes, and a bracket besides.
 */
export async function withoutSameFiles(
  session: Session,
  source: PictureSource,
): Promise<{ session: Session; faults: FoundFault[] }> {
  const left = new Map<Take, Set<number>>();
  const faults: FoundFault[] = [];
  for (const same of await groupsOf(session, source)) {
    const files = [...new Set(same.map(({ file }) => file))];
    const wrong = contradicted(same);
    const found = wrong.length > 0 ? wrong : repeated(same);
    if (found.length === 0) continue;
    const isLeftOut = await isOfCamera(same[0].file, source);
    if (isLeftOut) for (const { take, index } of found) left.set(take, (left.get(take) ?? new Set()).add(index));
    const takes = [...new Set(found.map(({ take }) => take))];
    const ids = takes.map(({ id }) => id);
    const fault = (wrong.length > 0 ? samePictureElsewhere : samePictureTwice)(ids, files, isLeftOut);
    for (const filter of new Set(takes.map((take) => take.filter))) faults.push({ filter, fault });
  }
  if (left.size === 0) return { session, faults };
  const takes = session.takes.flatMap((take) => {
    const files = take.files.filter((_, i) => !left.get(take)?.has(i));
    return files.length === 0 ? [] : [{ ...take, files }];
  });
  return { session: { ...session, takes }, faults };
}
