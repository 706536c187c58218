/** How a picture's sharpness falls against bare's. */
import { commonSpectra, fallBetween, spotsOf, tileSpectra, type Fall } from '../../ordinary';
import { applyHomography, composeHomographies, invertHomography } from '../../registration';
import type { Load, Loaded, On } from './types';

/** Textured places of a picture that a bare one shows too, and where they are there. */
function sharedSpots({ view }: Loaded, { homography }: On) {
  const spots = spotsOf(view, (spot) => {
    const [u, v] = applyHomography(homography, ...spot);
    return Math.abs(u) < 0.95 && Math.abs(v) < (0.95 * view.height) / view.width;
  });
  return { spots, there: spots.map((spot) => applyHomography(homography, ...spot)) };
}

/** How a picture's sharpness falls against bare's, by bare pictures of two takes: no two of the three share noise or a codec's copies. */
export async function fallAcross(first: Loaded, on: On, other: On, load: Load): Promise<Fall | null> {
  const [before, after] = [await load(on.file), await load(other.file)];
  const { spots, there } = sharedSpots(first, on);
  const between = composeHomographies(other.homography, invertHomography(on.homography));
  return fallBetween(
    commonSpectra(
      tileSpectra(first.view, before.view, on.homography, spots),
      tileSpectra(first.view, after.view, other.homography, spots),
    ),
    tileSpectra(before.view, after.view, between, there),
    1,
  );
}

/** How a picture's sharpness falls against the bare one's that it was laid on: both through a partner of their own take. */
export async function fallOf(
  first: Loaded,
  partner: On | undefined,
  on: On,
  barePartner: On | undefined,
  load: Load,
): Promise<Fall | null> {
  if (!partner || !barePartner) return null;
  const second = await load(partner.file);
  const [bare, bareSecond] = [await load(on.file), await load(barePartner.file)];
  const { spots, there } = sharedSpots(first, on);
  return fallBetween(
    tileSpectra(first.view, second.view, partner.homography, spots),
    tileSpectra(bare.view, bareSecond.view, barePartner.homography, there),
  );
}
