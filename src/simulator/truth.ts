/** What the simulated bench is made of: filters with a chosen truth, a camera, lamps, a protocol. */
import type { FilterKind, Nominal } from '@/core/session/notation';

export interface TrueFilter {
  id: string;
  name: string;
  kind: FilterKind;
  nominal: Nominal;
  /** As engraved, where somebody noted it. */
  serial?: string;
  /** Stops that each of R, G, B really loses at the center. */
  stops: [number, number, number];
  /** Blur that the filter adds, standard deviation in pixels at 1200 wide. */
  blurPx?: number;
  /** Stops that the filter darkens the corners by, growing with the fourth power of the radius. */
  cornerStops?: number;
  /** A bright middle: stops at the center, and its standard deviation in half diagonals. */
  hotSpot?: { stops: number; radius: number };
  /** Light that it scatters from a lamp over the frame: share of a white surface. */
  veil?: number;
  /** Of polarizers: ring angle at which it passes light that swings along 0°, and how far it puts out what it should stop. */
  polarizer?: { axisDegrees: number; extinctionStops: number };
  /** Of variable filters, beyond `stops`: what each mark takes, where the crossed pattern begins, what turning back adds. */
  variable?: {
    marks: { mark: number; stops: number }[];
    cross?: { from: number; stopsPerMark: number; axisDegrees: number };
    backlashStops?: number;
  };
  /** Of graduated filters, whose `stops` are the clear half's: the other half and the line between, in heights of the frame. */
  graduation?: { denseStops: [number, number, number]; midline: number; width: number; angleDegrees: number };
  /** Ghosts of a lamp: place (fractions), share of a white surface, radius as a fraction of the width. */
  ghosts?: { x: number; y: number; level: number; radius: number }[];
}

export interface TrueCamera {
  response: 'linear' | 'srgb' | 'bt709' | 'hlg' | 's-curve' | { gamma: number };
  bitDepth: 8 | 16;
  /** Photo-electrons at full scale. */
  fullWell: number;
  /** Read noise, electrons. */
  readNoise: number;
  /** The lens's own falloff in the corners, stops. */
  falloffStops: number;
  /** The lens's and sensor's blur, standard deviation in pixels. */
  blurPx: number;
}

/** What a filter's ring is set to. */
export interface Setting {
  ringDegrees?: number;
  mark?: number;
  /** The mark was approached from a higher one. */
  fromAbove?: boolean;
}

/** How polarized scenes are lit. */
export interface Polarization {
  /** Ring angle along which the light swings. */
  lightDegrees: number;
  /** Degree of polarization of what water reflects or the sky scatters, 0–1. */
  degree: number;
  /** Degree of the bench lamps' own polarization. */
  bench?: number;
}

export interface Lamps {
  /** Linear drift over the session, stops. */
  driftStops: number;
  /** Bend of the drift: stops that its middle departs from the straight line. */
  bendStops?: number;
  /** Flicker from shot to shot, standard deviation in stops. */
  flickerStops?: number;
  /** A jump at this share of the session, in stops. */
  jump?: { at: number; stops: number };
}

export interface BenchPlan {
  title: string;
  seed: string;
  width: number;
  height: number;
  camera: TrueCamera;
  lamps: Lamps;
  protocol: 'locked' | 'matched' | 'automatic';
  /** Level of a white surface in the bare picture as a share of full scale. */
  bareLevel: number;
  filters: TrueFilter[];
  /** Pictures a take. */
  repeats: number;
  /** A bare take at both ends and after every n filters. */
  bareEvery: number;
  startedAt: string;
  scenes: SimulatedScene[];
  /** Shoots a bare bracket of this many whole stops around the bare exposure first, and asks for its response. */
  bracket?: number;
  spoiled?: Spoiled[];
  /** Ring angles of the polarizers' sweeps, in shooting order. */
  sweep?: number[];
  /** Ring angles of polarizers on unpolarized scenes; one take at 0° when left out. */
  benchRing?: number[];
  polarization?: Polarization;
  /** A sky that the camera turns about in, picture by picture of each take: where the sun stands, how clear the air is. */
  turn?: { sun: { azimuth: number; altitude: number }; altitude: number; clarity: number; pictures: number };
  /** What the session says of its scenes' light (formats: `optics`). */
  optics?: Partial<Record<SimulatedScene, Record<string, unknown>>>;
  /** How the camera and the things before it move, on the scene `outdoor`. */
  walk?: WalkScene;
  /** Films each take instead: one clip with a picture a frame. */
  clips?: ClipPlan;
}

/** An ordinary scene: how the camera moves before it, and what moves by itself. Amounts of zero or none keep it still. */
export interface WalkScene {
  /** What the landscape is painted by; the plan's own seed when left out. */
  landscape?: string;
  /** Pixels that the view drifts over a take, and that takes lie apart by (standard deviation, half of it). */
  driftPx?: number;
  /** Pixels of shake from picture to picture, standard deviation. */
  shakePx?: number;
  /** A hand's smooth sway while a clip runs: pixels to either side, and about how often a second. Its frames are smeared by their exposures. */
  sway?: { px: number; hertz: number };
  /** Of takes against each other, standard deviations: degrees, relative zoom, perspective (per half width). */
  turnDegrees?: number;
  zoom?: number;
  tilt?: number;
  /** How much more than the back what stands in front moves. */
  parallax?: number;
  /** Of water and leaves, 0–1. */
  wind?: number;
  /** Somebody walks by. */
  walker?: boolean;
  /** Stops of light from a take's first picture to its last. */
  clouds?: { take: string; from: number; to: number }[];
  /** Degrees of polarization (0–1) of its sky and its water, along `polarization.lightDegrees`; a polarizer sees them. */
  polarized?: { sky: number; water: number };
  /** A shadow over the left of some takes, up to an edge (half widths from the center). */
  shadow?: { takes: string[]; stops: number; edge: number };
}

/** How the stand-in camera films. */
export interface ClipPlan {
  codec: 'h264' | 'h265';
  bits: 8 | 10;
  chroma: '420' | '422' | '444';
  range: 'limited' | 'full';
  /** Quality of the encoder, 0 (best) to 51. */
  quality: number;
  framesPerSecond: number;
  frames: number;
  /** Every so many frames one is coded by itself; as the encoder likes when left out. */
  keyEvery?: number;
  /** Exposures go into SubRip beside the clip instead of into the session. */
  telemetry: boolean;
}

/** Something that went wrong with one picture of a take, or with all of them. */
export interface Spoiled {
  take: string;
  /** Which repeat; all when left out. */
  index?: number;
  /** The camera shook: blur along x and y, standard deviations in pixels. */
  shakePx?: [number, number];
  /** The focus moved: blur in the center and in the corners, standard deviations in pixels. */
  focusPx?: { center: number; corner: number };
  /** The camera moved: pixels to the right and down. */
  movedPx?: [number, number];
  /** The camera stood somewhere else. */
  elsewhere?: boolean;
  /** The lens cap was on. */
  covered?: boolean;
  /** The picture was exposed by this many stops more than the session says; the file itself tells the truth. */
  exposureStops?: number;
  /** The camera's white balance, as the file says. */
  whiteBalance?: string;
  /** The camera's gains moved, which the file doesn't say: stops of R, G, B. */
  gainStops?: [number, number, number];
  /** Another filter was on: its id. */
  otherFilter?: string;
  /** The ring of a variable filter stood at this mark in place of the noted one. */
  otherMark?: number;
  /** The ring angle that was noted, which isn't the one it stood at. */
  notedDegrees?: number;
}

/** `flat-long` is the even wall at the lens's long end. */
export type SimulatedScene = 'chart' | 'flat' | 'flat-long' | 'flare' | 'screen' | 'water' | 'sky' | 'turn' | 'outdoor';

/** One exposure of the bench, before it is rendered. */
export interface PlannedTake {
  id: string;
  filter: TrueFilter | null;
  scene: SimulatedScene;
  role: 'measure' | 'bracket' | 'sweep';
  setting?: Setting;
  /** Minutes since the start. */
  minute: number;
  /** Stops that the lamps have changed by. */
  lampStops: number;
  shutterSeconds: number;
  shutterText: string;
  iso: number;
  repeats: number;
}
