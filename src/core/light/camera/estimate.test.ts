/** Worked cameras: curves written down in closed form, seen through places of known light. */
import { seededNormals } from '../../formulas/statistics/seededNormals';
import { correctionOf } from './corrected';
import { estimateResponse } from './estimate';
import { NO_EVIDENCE, type Evidence, type PlaceEvidence, type ResponseEstimate } from './model';

/** Stops of light that the declared curve makes of a light, both from full scale: an S with a plain gamma of 1.15. */
const bent = (light: number) => 1.15 * light + 0.25 * Math.sin(light / 2);

interface Camera {
  /** Exposures of bare pictures, stops from the first. */
  bare: readonly number[];
  /** Stops of a filter and the exposures of its pictures. */
  filtered?: { stops: number; exposures: readonly number[] };
  curve?: (light: number, exposure: number, median: number) => number;
  noise?: number;
  places?: number;
  /** How many stops they lie apart. */
  apart?: number;
}

const MEDIAN = -2.5;

function seen({ bare, filtered, curve = bent, noise = 0.002, places = 24, apart = 4 }: Camera): Evidence {
  const draws = seededNormals(7);
  const shots = [
    ...bare.map((exposure) => ({ exposure, stops: 0, strength: null })),
    ...(filtered?.exposures ?? []).map((exposure) => ({ exposure, stops: filtered!.stops, strength: 0 })),
  ];
  const observations = shots.flatMap(({ exposure, stops }, picture) =>
    Array.from({ length: places }, (_, place): PlaceEvidence => {
      const light = MEDIAN + (1.9 * apart) / 4 - (apart * place) / places + exposure - stops;
      const y = curve(light, exposure, MEDIAN + exposure - stops);
      const variance = noise * noise;
      return {
        picture,
        place,
        y: [0, 1, 2].map(() => y + noise * draws()) as [number, number, number],
        covariance: Float64Array.of(variance, 0, 0, 0, variance, 0, 0, 0, variance),
        contrast: 0,
        luma: 0.5,
        gain: [3, 3, 3],
      };
    }),
  );
  return {
    pictures: shots.map(({ exposure, stops, strength }, i) => ({
      take: `take-${i}`,
      scene: 0,
      strength,
      exposure,
      // Shot at once: light that may have drifted would take a share of every difference.
      moment: 0.5,
      median: MEDIAN + exposure - stops,
    })),
    places: Array.from({ length: places }, () => ({ scene: 0, x: 0, y: 0 })),
    observations,
    scenes: 1,
    strengths: filtered ? 1 : 0,
  };
}

/** Difference of two lights, by the estimate, of codes that show them; codes stand for log2 of declared light here. */
function difference(estimate: ResponseEstimate, bright: number, dark: number) {
  const correction = correctionOf(estimate, (code) => code);
  const [high, low] = [bright, dark].map((light) => bent(light));
  const value = Math.log2(correction.correct(2 ** high, 1) / correction.correct(2 ** low, 1));
  const sum = [
    [high, 1],
    [low, -1],
  ] as const;
  return { value, u: Math.sqrt(correction.covariance([sum, sum, sum])[4]) };
}

const estimated = (camera: Camera) => estimateResponse(seen(camera), 0.35)!;

describe('two darker bare pictures', () => {
  const estimate = estimated({ bare: [0, 0, -1, -3] });

  test.each([
    [-1, -2],
    [-1, -4],
    [-2, -6],
    [-1.2, -1.4],
  ])('%d against %d stops: held, and told closely', (bright, dark) => {
    const { value, u } = difference(estimate, bright, dark);
    expect(Math.abs(value - (bright - dark))).toBeLessThan(2 * u);
    expect(u).toBeLessThan(0.012 * (bright - dark) + 0.003);
  });

  test('what was known, and that nothing adapts', () => {
    expect(estimate).toMatchObject({ converged: true, knownStops: 3, adapts: false });
    expect(estimate.offsets).toBeLessThan(0.004);
  });

  test('darker than what was seen the doubt grows by half a stop a stop: there a style may lift black', () => {
    expect(estimate.darkest).toBeCloseTo(-7.4, 0);
    const [seen, below] = [-6, -11].map((dark) => difference(estimate, -1, dark).u);
    expect(below).toBeGreaterThan(0.5 * (-7.4 - -11) * 0.8);
    expect(seen).toBeLessThan(0.1);
  });
});

describe('without a known difference of exposure', () => {
  test('the slope stays in doubt by 0.8 σ a stop at least, whatever the places say', () => {
    const estimate = estimated({ bare: [0, 0], filtered: { stops: 4, exposures: [0, 0] } });
    expect(estimate.knownStops).toBe(0);
    const { u } = difference(estimate, -1, -5);
    expect(u).toBeGreaterThan(0.8 * 0.35 * 4 * 0.8);
    // Matched pictures hardly ask for it.
    expect(difference(estimate, -1, -1.1).u).toBeLessThan(0.05);
  });

  test('a sixth of a stop tells nothing, a third does', () => {
    expect(difference(estimated({ bare: [0, 1 / 6] }), -1, -3).u).toBeGreaterThan(0.4);
    expect(difference(estimated({ bare: [0, -1 / 3] }), -1, -3).u).toBeLessThan(0.3);
  });

  test('with no picture at all the prior comes back, around the declared curve', () => {
    const estimate = estimateResponse(NO_EVIDENCE, 0.35)!;
    const correction = correctionOf(estimate, (code) => code);
    expect(correction.correct(0.25, 0)).toBeCloseTo(0.25, 6);
    const sum = [
      [-1, 1],
      [-2, -1],
    ] as const;
    expect(Math.sqrt(correction.covariance([sum, sum, sum])[0])).toBeGreaterThan(0.35);
  });
});

describe('tone that adapts', () => {
  /** The slope grows by 0.05 for each stop that the picture's median falls. */
  const adapting = (light: number, _exposure: number, median: number) => bent(light) - 0.05 * (median - MEDIAN) * light;

  test('is found, with its size, and each picture is set right by its own slope', () => {
    const estimate = estimated({ bare: [0, 0, -1, -2, -3], curve: adapting });
    expect(estimate.adapts).toBe(true);
    expect(Math.abs(estimate.automatic.value + 0.05)).toBeLessThan(0.01);
    const { pullOf } = correctionOf(estimate, (code) => code);
    expect(pullOf('another', MEDIAN - 3) - pullOf('another', MEDIAN)).toBeCloseTo(0.15, 1);
  });

  test('of pictures that aren’t set right by it all is in doubt: one place in two pictures, and corners of two', () => {
    const estimate = estimated({ bare: [0, 0, -1, -2, -3], curve: adapting });
    const [one, each] = [false, true].map((pulled) => correctionOf(estimate, (code) => code, pulled));
    // A picture whose middle lies at −2.5 and one at −5.5; their corners 0.6 darker.
    const lights = [-5.5, -2.5].map((middle) => [0, -0.6].map((fall) => adapting(middle + fall, 0, middle)));
    const [[dark, darkCorner], [bright, brightCorner]] = lights.map((picture) =>
      picture.map((y) => Math.log2(one.correct(2 ** y, 1))),
    );
    const u = (correction: typeof one, terms: [number, number][]) =>
      Math.sqrt(correction.covarianceOfLight([terms, terms, terms])[4]);
    const strength: [number, number][] = [[bright, 1], [dark, -1]]; // prettier-ignore
    expect(Math.abs(bright - dark - 3)).toBeLessThan(2 * u(one, strength));
    expect(Math.abs(bright - dark - 3)).toBeGreaterThan(2 * u(each, strength));
    const corners: [number, number][] = [[darkCorner, 1], [dark, -1], [brightCorner, -1], [bright, 1]]; // prettier-ignore
    const error = Math.abs(darkCorner - dark - (brightCorner - bright));
    expect(error).toBeGreaterThan(0.05);
    expect(error).toBeLessThan(2 * u(one, corners));
    expect(error).toBeGreaterThan(2 * u(each, corners));
  });

  test('what is found at two to four times its uncertainty is neither believed nor dismissed', () => {
    const slight = (light: number, _exposure: number, median: number) => bent(light) - 0.03 * (median - MEDIAN) * light;
    const { adapts, undecided } = estimated({ bare: [0, 0, -1], curve: slight, noise: 0.02 });
    expect(adapts).toBe(false);
    expect(undecided).toBeGreaterThan(0.02);
  });

  test('before a hard style too, which draws what was adapted: its slope runs from half to one and a half there', () => {
    const hard = (light: number) => light + 0.65 * Math.sin(light / 1.3);
    const drawn = (light: number, _exposure: number, median: number) => hard(light * (1 - 0.05 * (median - MEDIAN)));
    const estimate = estimated({ bare: [0, 0, -1, -2, -3], curve: drawn });
    expect(estimate.adapts).toBe(true);
    expect(Math.abs(estimate.automatic.value + 0.05)).toBeLessThan(0.006);
  });

  test('beside tone that is local a slight one isn’t believed: no gain on contrast describes that wholly', () => {
    const slight = (light: number, _exposure: number, median: number) =>
      bent(light) - 0.016 * (median - MEDIAN) * light;
    const evidence = seen({ bare: [0, 0, -1, -2, -3], curve: slight });
    expect(estimateResponse(evidence, 0.35)!.adapts).toBe(true);
    expect(estimateResponse({ ...evidence, local: { value: -0.3, u: 0.005, luma: 0.5 } }, 0.35)!.adapts).toBe(false);
    const plain = seen({ bare: [0, 0, -1, -2, -3], curve: adapting });
    expect(estimateResponse({ ...plain, local: { value: -0.3, u: 0.005, luma: 0.5 } }, 0.35)!.adapts).toBe(true);
  });

  test('widens what is told across pictures', () => {
    const still = difference(estimated({ bare: [0, 0, -1, -2, -3] }), -1, -5).u;
    expect(difference(estimated({ bare: [0, 0, -1, -2, -3], curve: adapting }), -1, -5).u).toBeGreaterThan(2 * still);
  });
});

describe('an even wall alone, of a camera whose tone adapts', () => {
  const adapting = (light: number, _exposure: number, median: number) => light - 0.05 * (median - MEDIAN) * light;
  const wall = { bare: [0, 0, -1, -3], curve: adapting, apart: 0.1 };

  test('the curve takes up what adapts: places as bright as their pictures come out right, and nothing is found', () => {
    const estimate = estimated(wall);
    expect(estimate.adapts).toBe(false);
    const correction = correctionOf(estimate, (code) => code);
    const light = (at: number) => Math.log2(correction.correct(2 ** adapting(at, 0, at), 1));
    expect(Math.abs(light(MEDIAN) - light(MEDIAN - 3) - 3)).toBeLessThan(0.03);
  });

  test('others don’t, which is in the doubt of places of one picture alone', () => {
    const estimate = estimated(wall);
    expect(estimate.undecided).toBeGreaterThan(0.01);
    const correction = correctionOf(estimate, (code) => code);
    // A picture whose middle lies at −4, and a place of it at −5.5.
    const [middle, place] = [adapting(-4, 0, -4), adapting(-5.5, 0, -4)];
    const error = Math.log2(correction.correct(2 ** middle, 1) / correction.correct(2 ** place, 1)) - 1.5;
    expect(Math.abs(error)).toBeGreaterThan(0.1);
    const sum = [[middle, 1], [place, -1]] as const; // prettier-ignore
    const u = (acrossPlaces: boolean) => Math.sqrt(correction.covariance([sum, sum, sum], acrossPlaces)[4]);
    expect(Math.abs(error)).toBeLessThan(2 * u(true));
    expect(Math.abs(error)).toBeGreaterThan(4 * u(false));
  });

  test('with places of many levels it is decided', () => {
    expect(estimated({ bare: [0, 0, -1, -3] }).undecided).toBe(0);
    expect(estimated({ ...wall, apart: 4 }).undecided).toBe(0);
  });
});

describe('contrast that is changed place by place', () => {
  /** Places of one level in bright and dark surroundings, of a camera that draws straight but for a gain among the midtones. */
  function drawnLocally(value: number, inDark: number): Evidence {
    const evidence = seen({ bare: [0, 0, -1, -3], curve: (light) => light, noise: 0.0005 });
    for (const one of evidence.observations) {
      const contrast = one.place % 2 === 0 ? 0.2 : -0.2;
      const luma = 0.5 * 2 ** ((one.y[1] + 1) / 2.2);
      const gain = value * (luma / 0.5) ** inDark;
      Object.assign(one, {
        contrast,
        luma,
        y: one.y.map((y) => y + gain * contrast * 3) as unknown as PlaceEvidence['y'],
      });
    }
    return { ...evidence, local: { value, u: 0.004, luma: 0.5 } };
  }

  test.each([0, 1])(
    'its gain comes back with the power (%d) by which it goes in the dark, and the curve stays straight',
    (power) => {
      const estimate = estimateResponse(drawnLocally(0.2, power), 0.35)!;
      expect(Math.abs(estimate.local.value - 0.2)).toBeLessThan(0.03);
      expect(Math.abs(estimate.local.inDark - power)).toBeLessThan(0.25);
      const correction = correctionOf(estimate, (code) => code);
      const told = Math.log2(correction.correct(2 ** -1, 1) / correction.correct(2 ** -5, 1));
      expect(Math.abs(told - 4)).toBeLessThan(0.02);
    },
  );

  test.each([-2, -3, 6])('a gain by the power %d of light is held to powers that cameras have', (power) => {
    const { local } = estimateResponse(drawnLocally(0.2, power), 0.35)!;
    // And what it multiplies never turns contrast upside down, however little the model fits.
    expect(local.value).toBeGreaterThanOrEqual(-0.9);
    expect(local.value).toBeLessThanOrEqual(2);
    for (const one of [local.inDark, local.inLight]) {
      expect(one).toBeGreaterThanOrEqual(-0.25);
      expect(one).toBeLessThanOrEqual(3);
    }
  });
});

test('a wrong exposure shows as an offset of its picture, and widens', () => {
  // One of the dark pictures was half a stop brighter than it says.
  const wrong = (light: number, exposure: number) => bent(light + (exposure === -2 ? 0.5 : 0));
  const estimate = estimated({ bare: [0, 0, -1, -2, -3], curve: wrong });
  expect(estimate.offsets).toBeGreaterThan(0.1);
  expect(difference(estimate, -1, -5).u).toBeGreaterThan(
    5 * difference(estimated({ bare: [0, 0, -1, -2, -3] }), -1, -5).u,
  );
});

test('colors drawn by curves of their own come back channel by channel', () => {
  const evidence = seen({ bare: [0, 0, -1, -3] });
  // Red is steeper by four hundredths of a stop a stop.
  for (const one of evidence.observations) {
    const [red, green, blue] = one.y;
    Object.assign(one, { y: [red * 1.04, green, blue] });
  }
  const correction = correctionOf(estimateResponse(evidence, 0.35)!, (code) => code);
  const [high, low] = [bent(-1), bent(-4)];
  const told = (channel: number, factor: number) =>
    Math.log2(correction.correct(2 ** (factor * high), channel) / correction.correct(2 ** (factor * low), channel));
  expect(told(0, 1.04) - told(1, 1)).toBeCloseTo(0, 1.5);
  expect(Math.abs(told(0, 1.04) - 3)).toBeLessThan(0.03);
});
