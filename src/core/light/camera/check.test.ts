/** A check kept and taken up again: nothing of the estimate is lost, and it isn't believed where it doesn't stand. */
import { cameraCheckSchema, settingsApart } from '../../session/cameraCheck';
import { checkOf } from '../../testing/cameraCheck';
import { contradicts, knowledgeOf, whyRefused } from './check';
import { correctionOf } from './corrected';
import { estimateResponse } from './estimate';
import { NO_EVIDENCE, type Evidence } from './model';

/** A wall at exposures a stop apart, drawn by a plain gamma: y = slope·light. */
function bracketOf(slope: number, stops: number): Evidence {
  const exposures = Array.from({ length: stops + 1 }, (_, i) => -i);
  return {
    pictures: exposures.map((exposure, i) => ({
      take: `${i}`,
      scene: 0,
      strength: null,
      exposure,
      moment: (i * 0.618) % 1,
      median: -1 + exposure,
    })),
    places: [0, 0.5, 1].map((x) => ({ scene: 0, x, y: 0 })),
    observations: exposures.flatMap((exposure, picture) =>
      [0, 1, 2].map((place) => {
        const y = slope * (-1 - 0.2 * place + exposure);
        return {
          picture,
          place,
          y: [y, y, y] as [number, number, number],
          covariance: Float64Array.of(1e-6, 0, 0, 0, 1e-6, 0, 0, 0, 1e-6),
          contrast: 0,
          luma: 0.5,
          gain: [3, 3, 3] as [number, number, number],
        };
      }),
    ),
    scenes: 1,
    strengths: 0,
  };
}

const fitted = (slope: number) => estimateResponse(bracketOf(slope, 8), 0.35)!;

const estimate = fitted(1.2);
const check = checkOf(estimate);

test('the curve comes back as it was kept, what three stops leave open hardly wider', () => {
  const { mean, knownStops } = knowledgeOf(check);
  expect(knownStops).toBe(8);
  for (const knot of [4, 8, 12]) expect(mean[knot]).toBeCloseTo(estimate.knots[knot], 4);
  const sum = [
    [-3, 1],
    [-6, -1],
  ] as const;
  const own = Math.sqrt(correctionOf(estimate, (code) => code).covarianceOfLight([sum, sum, sum])[4]);
  expect(later().u / own).toBeGreaterThan(0.95);
  expect(later().u / own).toBeLessThan(1.3);
});

/** What a session that shows nothing knows by a check: light of codes, and the u of three stops. */
function later(otherIso = false) {
  const fit = estimateResponse(NO_EVIDENCE, 0.35, knowledgeOf(check, otherIso))!;
  const { correct, covarianceOfLight } = correctionOf(fit, (code) => code);
  const sum = [
    [-3, 1],
    [-6, -1],
  ] as const;
  return { converged: fit.converged, correct, u: Math.sqrt(covarianceOfLight([sum, sum, sum])[4]) };
}

test('a session that shows nothing knows what the check knew: a stop of code is 1/1.2 stops of light', () => {
  const { converged, correct, u } = later();
  expect(converged).toBe(true);
  const stops = Math.log2(correct(2 ** -3, 1) / correct(2 ** -6.6, 1));
  expect(stops).toBeCloseTo(3, 2);
  expect(u).toBeLessThan(0.02);
});

test('an ISO that it wasn’t made at widens it', () => {
  expect(later(true).u).toBeGreaterThan(2 * later().u);
});

test('pictures of another curve contradict it, those of the same don’t, nor do pictures that tell nothing', () => {
  const known = knowledgeOf(check);
  expect(contradicts(fitted(1.2), known)).toBe(false);
  expect(contradicts(fitted(1.25), known)).toBe(true);
  expect(contradicts(estimateResponse(NO_EVIDENCE, 0.35)!, known)).toBe(false);
});

test('refused for files of another kind or with other settings, in words', () => {
  const file = { ...check.file, settings: { make: 'A', model: 'B' } };
  expect(whyRefused(check, file)).toEqual([]);
  expect(whyRefused(check, { ...file, bitDepth: 10, lossy: false })).toEqual(['bit depth', 'compression']);
  const set = checkOf(estimate, { settings: { model: 'C', contrast: 1 } });
  expect(whyRefused(set, { ...file, settings: { model: 'B', contrast: 2 } })).toEqual(['model', 'contrast']);
  // What one of both doesn't tell can't differ.
  expect(settingsApart({ contrast: 1 }, { saturation: 2 })).toEqual([]);
});

test('a file that isn’t a check is told in a sentence', () => {
  const wrong = cameraCheckSchema.safeParse({ ...check, format: 'something' });
  expect(wrong.error!.issues[0].message).toBe('This file isn’t a camera check.');
  const cut = cameraCheckSchema.safeParse({ ...check, knots: check.knots.slice(1) });
  expect(cut.error!.issues[0].message).toBe('The curve has another number of knots.');
});
