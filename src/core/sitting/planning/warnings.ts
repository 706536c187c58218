/** What will spoil a sitting: rules that can be read one after the other. */
import { checkMass } from '../kits/mass';
import type { KeptFilter } from '../kits/keptKit';
import type { Direction } from '../../formulas/optics/rayleigh';
import { polarizes } from '../../session/polarizing';
import type { Plan, PlanRequest } from './plan';
import { targetSeconds } from './target';

export interface PlanWarning {
  code: string;
  /** What, and why it matters. */
  message: string;
  /** What to do instead. */
  advice: string;
}

type Rule = (request: PlanRequest, plan: Plan) => PlanWarning | null;

const bareTakes = ({ takes }: Plan, scene: string) => takes.filter((one) => one.scene === scene && one.filter === null);
/** A third of a stop is settled by repeats that scatter like lamps do. Our own judgement. */
const FEW_REPEATS = 2;
const LONG_MINUTES = 90;
/** From here on mounts begin to show in corners. Common practice, no source. */
const WIDE_DEGREES = 75;
/** A view this near the sun's heading flares and turns to silhouettes. Our own judgement. */
const FACING_DEGREES = 35;

/** Why a route's heading will spoil the pictures; `null` where it doesn't. */
export function warnOfHeading(heading: number, sun: Direction): PlanWarning | null {
  const apart = Math.abs(((heading - sun.azimuth + 540) % 360) - 180);
  return sun.altitude > 0 && apart < FACING_DEGREES
    ? {
        code: 'faces-sun',
        message: `A view towards ${Math.round(heading)}° faces the sun, ${Math.round(apart)}° beside it: flare and a moving exposure spoil the figures.`,
        advice: 'Turn the route by a quarter, or go at another hour.',
      }
    : null;
}

const RULES: readonly Rule[] = [
  ({ whiteBalance }) =>
    whiteBalance === 'automatic'
      ? {
          code: 'white-balance',
          message: 'An automatic white balance takes out a part of each cast, another part in every take.',
          advice: 'Lock it to one value (daylight) for bare and filtered takes.',
        }
      : null,
  ({ protocol }) =>
    protocol === 'automatic'
      ? {
          code: 'automatic-exposure',
          message:
            'Automatic exposure may move inside a clip, and then most of the figure hangs on what the camera says.',
          advice:
            'Match the exposure by hand where the camera lets you; else keep the telemetry or EXIF beside every file.',
        }
      : null,
  ({ scenes }, plan) => {
    const once = scenes.find((scene) => bareTakes(plan, scene).length < 2);
    return once
      ? {
          code: 'bare-once',
          message: `“${once}” has fewer than two bare takes: whether the light drifted can’t be told.`,
          advice: 'Shoot bare at both ends at least.',
        }
      : null;
  },
  ({ kit, scenes }) =>
    kit.filters.some(polarizes) && !scenes.includes('screen')
      ? {
          code: 'ring-not-swept',
          message: 'The kit has a polarizer, but no screen is planned: its axis and extinction will stay unknown.',
          advice: 'Add the white screen, and note the ring’s angle at every take.',
        }
      : null,
  ({ repeats }) =>
    repeats < FEW_REPEATS
      ? {
          code: 'few-repeats',
          message: 'One picture a take can’t tell how much the lamps flicker, so a verdict near a line stays open.',
          advice: 'Two or three repeats cost a few seconds each.',
        }
      : null,
  ({ protocol, kit }, { outlook }) => {
    const drowned = outlook.filter((one) => one.cannot !== null).map((one) => one.filter);
    const names = kit.filters.filter((one) => drowned.includes(one.id)).map((one) => one.name ?? one.id);
    return protocol === 'locked' && names.length > 0
      ? {
          code: 'locked-too-dark',
          message: `Locked, ${names.join(', ')} would fall under the noise floor.`,
          advice: 'Match the exposure for these, or for all.',
        }
      : null;
  },
  ({ kit, scenes }) =>
    kit.filters.some((one) => one.kind === 'graduated-nd' || one.kind === 'variable-nd') && !scenes.includes('flat')
      ? {
          code: 'no-flat',
          message:
            'Graduated and variable filters need an even wall: their line and their crossed pattern show nowhere else.',
          advice: 'Add the even wall.',
        }
      : null,
  ({ lenses, kit }) => {
    const wide = Object.values(lenses).find((lens) => (lens?.fieldOfViewDegrees ?? 0) > WIDE_DEGREES);
    const thick = kit.filters.filter((one) => polarizes(one) || one.kind === 'variable-nd');
    return wide && thick.length > 0
      ? {
          code: 'thick-mount',
          message: `${wide.name} sees ${Math.round(wide.fieldOfViewDegrees!)}° wide: the turning rings of ${thick.map((one) => one.name ?? one.id).join(', ')} may stand in its corners.`,
          advice: 'Shoot the even wall too, and look at the corners at the widest aperture before the sitting.',
        }
      : null;
  },
  ({ kit, aircraft }) => {
    const { over, unknown } = aircraft ? checkMass(kit.filters as KeptFilter[], aircraft) : { over: [], unknown: [] };
    const nameOf = (id: string) => kit.filters.find((one) => one.id === id)?.name ?? id;
    if (over.length > 0)
      return {
        code: 'too-heavy',
        message: `${over.map((one) => `${nameOf(one.filter)} by ${one.grams.toFixed(1)} g`).join(', ')} would lift the aircraft over the limit of its class.`,
        advice: 'Don’t fly it like that: what applies to you, local rules and the maker’s manual say.',
      };
    return unknown.length > 0
      ? {
          code: 'not-weighed',
          message: `The aircraft has a limit of mass, and ${unknown.map(nameOf).join(', ')} ${unknown.length === 1 ? 'was' : 'were'} not weighed.`,
          advice: 'Weigh them and enter it with the kit.',
        }
      : null;
  },
  ({ target }, { takes }) => {
    const seconds = target ? targetSeconds(target) : null;
    return target?.kind === 'long exposure' &&
      seconds !== null &&
      takes.every((take) => take.setting.shutterSeconds < seconds / 2)
      ? {
          code: 'shorter-than-target',
          message: 'No take comes near the long exposure: noise, hot pixels and haze of long shutters are not tested.',
          advice: 'Less light or a narrower aperture for the strongest filter, as the real picture will have.',
        }
      : null;
  },
  (_, { minutes }) =>
    minutes > LONG_MINUTES
      ? {
          code: 'long',
          message: `It will take about ${(minutes / 60).toFixed(1)} hours: light, batteries and care wear out.`,
          advice: 'Split it in two sittings, each with bare takes of its own.',
        }
      : null,
];

/** All that is worth a warning. */
export function warnOf(request: PlanRequest, plan: Plan): PlanWarning[] {
  return RULES.flatMap((rule) => rule(request, plan) ?? []);
}

/** Where practice differs: what each choice buys and costs. */
export const SCHOOLS = {
  protocol: {
    matched:
      'The shutter is walked until the picture is as bright as bare: best for strong filters, and the camera’s curve hardly matters; it needs accurate shutter speeds.',
    locked:
      'Nothing moves but the filter: simple and hard to get wrong, but strong filters drown in the dark and the camera’s curve must be known.',
    automatic:
      'The camera meters: the only way with some cameras, but its read-outs carry the figure, and it may change its mind inside a clip.',
  },
  order: {
    lightest:
      'Lightest first: exposures grow step by step, and a slip shows at once. A steady drift of the light is left to the bare takes.',
    darkest: 'Darkest first: the weak pictures get the freshest lamps and batteries.',
    mirrored: 'There and back: every filter twice, and a steady drift cancels by itself; it takes twice as long.',
  },
  exposeFor: {
    middle: 'As the meter wants it: gray in the middle of the range. White paper comes close to clipping.',
    darker:
      'Two thirds of a stop darker: what is too dark can be raised later, what is burnt out can’t be brought back; shadows get noisier.',
    brightest:
      'For the brightest part: white paper half a stop below clipping, so that nothing of the chart is lost and little light is given away.',
  },
  outdoors: {
    manual:
      'By hand: every take of a route has one exposure, and what changes is the light or the filter; when a cloud comes, the take is lost.',
    automatic:
      'Automatic: no take is burnt out or drowned; but the strength then hangs on what the camera says of each frame, and it may hunt inside a clip.',
  },
} as const;

/** Before and during a sitting. Own lines can be added. */
export const CHECKLIST: readonly string[] = [
  'Read the maker’s manual of camera and gimbal, and the local rules, first; they go before this list.',
  'Power the camera off before changing a filter, and hold the gimbal still; propellers stopped.',
  'Lamps get hot: let them warm up, don’t touch them, keep cloth and paper away.',
  'Never point a camera or an eye at the sun, with or without a filter.',
  'Not over people, and in sight; fly only where and as your license and the place allow.',
  'White balance, focus, profile and stabilization set by hand and left alone.',
  'Glass clean, nothing on the chart, no window or moving shadow in the light.',
  'Photograph the phone’s clock once, so that times can be laid on each other.',
];
