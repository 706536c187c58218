/**
 * Draws the picture of the method page, `npm run method-pictures`: what is known of a styled camera's curve from pictures of one exposure,
 * and with two darker bare pictures beside them; dashed how it really is.
 */
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { measureSession } from '../src/core/measure';
import { parseSession } from '../src/core/session/parse';
import { folderSource } from '../src/media/folder';
import { drawProfile, styled } from '../src/simulator/camera/profile';
import { shootSession } from '../src/simulator/camera/shoot';
import { randomPlan } from '../src/simulator/randomBench';

const SEED = 'method';
const [WIDTH, HEIGHT, GAP, LEFT, TOP, BOTTOM] = [360, 250, 60, 44, 34, 46];
const LOWEST = -8;
/** The code at which both curves are laid on each other. */
const MIDDLE = 0.5;

type Points = [code: number, stops: number, u95: number][];

/** Light of a code, relative: the style's inverse, by halving, through the standard curve (IEC 61966-2-1). */
function trueStops(code: number): number {
  const { style } = drawProfile(SEED, 'curve');
  let [low, high] = [0, 1];
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (styled(style, middle, 1) < code) low = middle;
    else high = middle;
  }
  return Math.log2(Math.max(1e-6, low <= 0.04045 ? low / 12.92 : ((low + 0.055) / 1.055) ** 2.4));
}

async function learned(darker: readonly number[]): Promise<Points> {
  const folder = await mkdtemp(join(tmpdir(), 'method-'));
  try {
    const drawn = randomPlan(SEED, { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 1 });
    const plan = { ...drawn, width: 480, height: 320, filters: drawn.filters.slice(0, 2) };
    await shootSession(plan, drawProfile(SEED, 'curve'), folder, darker);
    const session = parseSession(JSON.parse(await readFile(join(folder, 'session.glade.json'), 'utf8')));
    const readings = await measureSession(session, folderSource(folder), { createdAt: '', generator: '' });
    return readings.response.learned!.curve;
  } finally {
    await rm(folder, { recursive: true });
  }
}

function panel(title: string, points: Points, x: number): string {
  const shift = points.reduce((best, one) => (Math.abs(one[0] - MIDDLE) < Math.abs(best[0] - MIDDLE) ? one : best));
  const fromMiddle = (stops: number) => stops - shift[1];
  const place = (code: number, stops: number) =>
    `${(x + LEFT + (WIDTH - LEFT) * code).toFixed(1)},${(TOP + ((HEIGHT - TOP - BOTTOM) * (3 - Math.max(LOWEST, Math.min(3, stops)))) / (3 - LOWEST)).toFixed(1)}`;
  const seen = points.filter(([, stops]) => fromMiddle(stops) > LOWEST);
  const upper = seen.map(([code, stops, u95]) => place(code, fromMiddle(stops) + u95));
  const lower = seen.map(([code, stops, u95]) => place(code, fromMiddle(stops) - u95)).reverse();
  const line = seen.map(([code, stops]) => place(code, fromMiddle(stops)));
  const truth = seen.map(([code]) => place(code, trueStops(code) - trueStops(shift[0])));
  const grid = [2, 0, -2, -4, -6].map((stops) => {
    const [from, y] = place(0, stops).split(',');
    return `<path d="M${from} ${y}H${x + WIDTH}" stroke-opacity=".2"/><text x="${Number(from) - 8}" y="${Number(y) + 4}" text-anchor="end">${stops > 0 ? `+${stops}` : String(stops).replace('-', '−')}</text>`;
  });
  const codes = [0, 0.5, 1].map((code) => {
    const [at] = place(code, 0).split(',');
    return `<text x="${at}" y="${HEIGHT - BOTTOM + 16}" text-anchor="middle">${100 * code} %</text>`;
  });
  return `<text x="${x + LEFT}" y="18" font-weight="600">${title}</text>
${grid.join('\n')}
${codes.join('\n')}
<text x="${x + (LEFT + WIDTH) / 2}" y="${HEIGHT - 10}" text-anchor="middle">code value</text>
<path d="M${[...upper, ...lower].join('L')}Z" fill="currentColor" fill-opacity=".18" stroke="none"/>
<path d="M${line.join('L')}" stroke-width="1.6"/>
<path d="M${truth.join('L')}" stroke-dasharray="5 4" stroke-opacity=".8"/>`;
}

async function main(): Promise<void> {
  const [before, after] = [await learned([]), await learned([1, 3])];
  // Room for the last number under each axis.
  const width = 2 * WIDTH + GAP + 24;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${HEIGHT}" role="img" class="w-full h-auto" font-family="sans-serif" font-size="12" fill="none" stroke="currentColor">
<title>Light in stops against the code value, with the cloud of doubt</title>
${panel('One exposure: the curve may be many', before, 0)}
${panel('With two darker bare pictures', after, WIDTH + GAP)}
</svg>
`;
  const folder = join('docs', 'pictures');
  await mkdir(folder, { recursive: true });
  await writeFile(
    join(folder, 'curve-doubt.svg'),
    svg.replace(/\n+/g, '\n').replace(/<text /g, '<text fill="currentColor" stroke="none" '),
  );
}

void main();
