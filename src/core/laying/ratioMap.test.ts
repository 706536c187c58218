/** Ratio maps of pictures made here, pixel by pixel, so that what each cell ought to tell is known. */
import { median } from '../formulas/statistics/averages';
import { seededNormals } from '../formulas/statistics/seededNormals';
import type { Picture } from '../reading/window';
import { NO_MOVE } from '../formulas/geometry/homography';
import { ratioMap, REASONS, type RatioMap } from './ratioMap';
import { reduceView, type SceneView } from './sceneView';

const [WIDTH, HEIGHT] = [320, 180];
const LAID = { homography: NO_MOVE, blocks: [] };
const TOP = 65535;
const linear = Float64Array.from({ length: TOP + 1 }, (_, code) => code / TOP);

/** A picture of linear codes; light of a pixel and channel as a share of full scale, noise with it. */
function view(light: (x: number, y: number, c: number) => number): SceneView {
  const data = new Uint16Array(3 * WIDTH * HEIGHT);
  for (let y = 0, i = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++)
      for (let c = 0; c < 3; c++, i++) data[i] = Math.round(TOP * Math.min(1, Math.max(0, light(x, y, c))));
  const picture: Picture = { width: WIDTH, height: HEIGHT, channels: 3, bitDepth: 16, data };
  return reduceView(picture, {
    tables: [linear, linear, linear],
    conversion: null,
    luminance: [0.2126, 0.7152, 0.0722],
  });
}

/** Dark on the left, bright on the right, blue the weakest. */
const scene = (x: number, y: number, c: number) =>
  0.01 * 2 ** ((5.5 * x) / WIDTH) * (1 + 0.3 * Math.sin(0.4 * x + 0.3 * y)) * [1, 1, 0.6][c];

const cellsOf = (map: RatioMap, reason: (typeof REASONS)[number]) =>
  [...map.reason.keys()].filter((cell) => map.reason[cell] === REASONS.indexOf(reason));

test('what noise takes to black is left out by the other picture’s light: no channel is told brighter for it', () => {
  const normal = seededNormals(3);
  const noise = 0.0006;
  const bare = view((x, y, c) => scene(x, y, c) + 0.0003 * normal());
  const dark = view((x, y, c) => scene(x, y, c) / 16 + noise * normal());
  const map = ratioMap(dark, bare, LAID);
  const used = cellsOf(map, 'used');
  expect(used.length).toBeGreaterThan(0.2 * map.reason.length);
  // The left is too dark, all of it.
  expect(cellsOf(map, 'dark').length).toBeGreaterThan(0.2 * map.reason.length);
  const darkest = used.sort((a, b) => map.light[2][a] - map.light[2][b]).slice(0, 100);
  for (const c of [0, 1, 2]) expect(median(darkest.map((cell) => map.channels[c][cell])) + 4).toBeCloseTo(0, 1.7);
});

test('something black that goes by makes no more dark than itself', () => {
  const bare = view(scene);
  const passed = view((x, y, c) => (x > 200 && x < 240 && y > 40 && y < 120 ? 0 : scene(x, y, c) / 2));
  const map = ratioMap(passed, bare, LAID);
  const share = (40 * 80) / (WIDTH * HEIGHT);
  expect(cellsOf(map, 'used').length).toBeGreaterThan((1 - 2 * share) * map.reason.length);
  for (const cell of cellsOf(map, 'used')) expect(map.channels[1][cell]).toBeCloseTo(-1, 2);
});

test('a picture that is black all over, or nearly, tells nothing', () => {
  const bare = view(scene);
  const capped = ratioMap(
    view(() => 0),
    bare,
    LAID,
  );
  expect(cellsOf(capped, 'dark')).toHaveLength(capped.reason.length);
  const normal = seededNormals(4);
  const drowned = ratioMap(
    view((x, y, c) => scene(x, y, c) / 4000 + 0.001 * normal()),
    bare,
    LAID,
  );
  expect(cellsOf(drowned, 'used')).toEqual([]);
});
