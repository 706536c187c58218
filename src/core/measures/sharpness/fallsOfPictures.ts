/** How a picture's sharpness falls against bare's. */
import { commonSpectra, fallBetween, stretchOf, type Fall } from './fall';
import { spotsOf, tileSpectra } from './tileSpectra';
import type { SceneView } from '../../laying/sceneView';
import { applyHomography, composeHomographies } from '../../formulas/geometry/homography';
import type { Load, Loaded, On } from '../../laying/ordinaryTypes';

/** Textured places of a picture that a bare one shows too. */
function sharedSpots(view: SceneView, { homography }: On) {
  return spotsOf(view, (spot) => {
    const [u, v] = applyHomography(homography, ...spot);
    return Math.abs(u) < 0.95 && Math.abs(v) < (0.95 * view.height) / view.width;
  });
}

/** How a picture's sharpness falls against bare's, by bare pictures of two takes: no two of the three share noise or a codec's copies. */
export async function fallAcross({ view }: Loaded, on: On, other: On, load: Load): Promise<Fall | null> {
  const spots = sharedSpots(view, on);
  const own = { view, homography: null };
  const before = { view: (await load(on.file)).view, homography: on.homography };
  const after = { view: (await load(other.file)).view, homography: other.homography };
  return fallBetween(
    commonSpectra(tileSpectra(view, own, before, spots), tileSpectra(view, own, after, spots)),
    tileSpectra(view, before, after, spots),
    1,
    stretchOf([on.homography, other.homography]),
  );
}

/** How a picture's sharpness falls against the bare one's that it was laid on: both through a partner of their own take. */
export async function fallOf(
  { view }: Loaded,
  partner: On | undefined,
  on: On,
  barePartner: On | undefined,
  load: Load,
): Promise<Fall | null> {
  if (!partner || !barePartner) return null;
  const spots = sharedSpots(view, on);
  const second = { view: (await load(partner.file)).view, homography: partner.homography };
  const bare = { view: (await load(on.file)).view, homography: on.homography };
  const toBareSecond = composeHomographies(barePartner.homography, on.homography);
  const bareSecond = { view: (await load(barePartner.file)).view, homography: toBareSecond };
  return fallBetween(
    tileSpectra(view, { view, homography: null }, second, spots),
    tileSpectra(view, bare, bareSecond, spots),
    2,
    stretchOf([on.homography, toBareSecond]),
  );
}
