/** Checks of one take's files. */
import { exposureLog2 } from '../../formulas/optics/exposure';
import { duration } from '../intake/cameraClock';
import { readName } from '../intake/names';
import { LOOK_COLUMNS, LOOK_ROWS, meanCode } from '../intake/look';
import type { Take } from '../../session/schema';
import { exposureOf, type Check, type CheckedFile, type Footage } from './check';

/** Share of a patch at the top code from which its density is withheld (formats.md). */
const TOP_SHARE = 0.001;
/** A picture without patches may show a lamp; this much of it at the top code is worth a look. */
const TOP_SHARE_WHOLE = 0.02;
/** Mean code below which 8-bit pictures carry too few steps. */
const DARK_CODE = 10;
const MOVED_STOPS = 0.1;
const MOVED_COLOR = 0.04;
/** Telemetry that changes by less is the same, stops. */
const SAME_STOPS = 0.02;
const CLOCK_SECONDS = 90;

type Found = Omit<Check, 'takes' | 'show' | 'file'> & Partial<Pick<Check, 'show'>>;

/** What is worth saying of a take. */
export function ofTake(take: Take, footage: Footage): Check[] {
  return take.files.flatMap((path) => {
    const file = footage.files.get(path);
    const tell = (found: Found): Check => ({ show: { kind: 'picture' }, ...found, takes: [take.id], file: path });
    if (!file)
      return [
        tell({
          code: 'file-missing',
          severity: 'stop',
          message: `${path} isn’t there or can’t be read.`,
          advice: 'Add the file, or lay another one on this take.',
        }),
      ];
    return [
      ...ofLevels(take, path, file, footage),
      ...ofClip(take, path, file, footage),
      ...ofExposure(take, path, file, footage),
      ...ofNameAndClock(take, path, file, footage),
    ].map(tell);
  });
}

function ofLevels(take: Take, path: string, { look, facts }: CheckedFile, { session }: Footage): Found[] {
  if (!look || take.role === 'bracket') return [];
  const patches = session.patches.filter((patch) => patch.scene === take.scene && patch.role !== 'edge');
  const flare = session.scenes.find((scene) => scene.id === take.scene)?.kind === 'flare';
  const cells = look.topCells.flatMap((percent, cell) => (percent > 0 ? [cell] : []));
  const inside = cells.filter((cell) => patches.some((patch) => covers(patch.rect, cell)));
  const found: Found[] = [];
  if (inside.length > 0 && look.top > TOP_SHARE / 10)
    found.push({
      code: 'clipped',
      severity: 'stop',
      message: `${path} is clipped where it is measured.`,
      advice: 'Shoot it darker, or move the patch off the bright place; else its strength and cast are withheld.',
      show: { kind: 'cells', cells },
    });
  else if (look.top > TOP_SHARE_WHOLE && !flare)
    found.push({
      code: 'clipped',
      severity: 'look',
      message: `${(100 * look.top).toFixed(0)} % of ${path} is at the top code.`,
      advice: 'Keep patches off the marked places, or shoot it darker.',
      show: { kind: 'cells', cells },
    });
  const mean = meanCode(look);
  if (mean < DARK_CODE && facts.bitDepth === 8 && !flare)
    found.push({
      code: 'too-dark',
      severity: 'look',
      message: `${path} is very dark: its mean is code ${mean.toFixed(1)} of 255.`,
      advice:
        'Lengthen the shutter until it is about as bright as bare, or record 16 bits; the ± grows with every stop.',
    });
  return found;
}

function covers(rect: { x: number; y: number; width: number; height: number }, cell: number): boolean {
  const [column, row] = [cell % LOOK_COLUMNS, Math.floor(cell / LOOK_COLUMNS)];
  const [x, y] = [(column + 0.5) / LOOK_COLUMNS, (row + 0.5) / LOOK_ROWS];
  return x >= rect.x && x < rect.x + rect.width && y >= rect.y && y < rect.y + rect.height;
}

function ofClip(take: Take, path: string, { look }: CheckedFile, { telemetry }: Footage): Found[] {
  if (!look || !('moments' in look)) return [];
  const { from, to } = take.span ?? { from: 0, to: Infinity };
  const moments = look.moments.filter(({ seconds }) => seconds >= from && seconds <= to);
  if (moments.length < 2) return [];
  const cues = (take.telemetry === undefined ? undefined : telemetry.get(take.telemetry)) ?? [];
  const range = (values: number[]) => Math.max(...values) - Math.min(...values);
  const inside = cues.filter((cue) => cue.to > from && cue.from < to);
  const told = range(
    inside.map(({ exposure: { shutterSeconds = 1, iso = 100, fNumber = 1 } }) =>
      exposureLog2({ shutterSeconds, iso, fNumber }),
    ),
  );
  const logs = moments.map(({ light }) => light.map((value) => Math.log2(value + 1e-6)));
  const seen = range(logs.map(([, green]) => green));
  const color = Math.max(
    range(logs.map(([red, green]) => red - green)),
    range(logs.map(([, green, blue]) => blue - green)),
  );
  const found: Found[] = [];
  if (inside.length > 1 && told > SAME_STOPS)
    found.push({
      code: 'exposure-moved',
      severity: 'look',
      message: `The exposure changes by ${told.toFixed(2)} stop inside ${path}; each frame is taken at its own.`,
      advice: 'Lock the exposure next time, or use a span in which it holds.',
      show: { kind: 'moments' },
    });
  else if (seen > MOVED_STOPS)
    found.push({
      code: 'exposure-moved',
      severity: 'look',
      message: `${path} brightens and darkens by ${seen.toFixed(2)} stop, and ${inside.length > 0 ? 'its telemetry doesn’t say so' : 'no telemetry says why'}.`,
      advice: 'A cloud, or an exposure that moved: use a span in which the level holds.',
      show: { kind: 'moments' },
    });
  const kelvins = new Set(inside.flatMap((cue) => cue.colorTemperature ?? []));
  if (kelvins.size > 1 || color > MOVED_COLOR)
    found.push({
      code: 'white-balance-moved',
      severity: kelvins.size > 1 ? 'stop' : 'look',
      message:
        kelvins.size > 1
          ? `The white balance changes inside ${path}, from ${Math.min(...kelvins)} to ${Math.max(...kelvins)} K.`
          : `The colors of ${path} change by ${color.toFixed(2)} stop between channels.`,
      advice: 'Lock the white balance next time, or use a span in which it holds; else its cast is withheld.',
      show: { kind: 'moments' },
    });
  return found;
}

function ofExposure(take: Take, path: string, file: CheckedFile, footage: Footage): Found[] {
  if (exposureOf(take, file, footage) !== null) return [];
  return [
    {
      code: 'exposure-missing',
      severity: 'stop',
      message: `Nothing says at which exposure ${path} was shot.`,
      advice: 'Type shutter and ISO below, or add the telemetry; without them it can’t be measured.',
    },
  ];
}

function ofNameAndClock(take: Take, path: string, { facts }: CheckedFile, { session }: Footage): Found[] {
  const filters = session.kits.flatMap((kit) =>
    kit.filters.map((filter) => ({ ...filter, name: filter.name ?? filter.id })),
  );
  const said = readName(path, filters).filter;
  const nameOf = (id: string | null) => (id === null ? 'bare' : (filters.find((one) => one.id === id)?.name ?? id));
  const found: Found[] = [];
  if (said !== undefined && said !== take.filter)
    found.push({
      code: 'name-contradicts',
      severity: 'look',
      message: `${path} says ${nameOf(said)}, the take says ${nameOf(take.filter)}.`,
      advice: 'Drag it to the right filter, or leave it where the name is wrong.',
    });
  if (take.capturedAt !== undefined && facts.capturedAt !== null && take.files[0] === path) {
    const apart = (Date.parse(facts.capturedAt) - Date.parse(take.capturedAt)) / 1000;
    if (Math.abs(apart) > CLOCK_SECONDS)
      found.push({
        code: 'clock-off',
        severity: 'look',
        message: `The camera’s clock is ${duration(Math.abs(apart))} ${apart > 0 ? 'ahead of' : 'behind'} the log for ${path}.`,
        advice: 'The log’s time is used. If it is the same for all files, only the clock was wrong.',
      });
  }
  return found;
}
