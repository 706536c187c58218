/** Sentences by example: what a reader is told, word for word, with code, severity and what to do. */
import type { Fault } from '../session/readings';
import {
  curvesDiffer,
  curveUnchecked,
  curveUnsettled,
  learnedInWords,
  picturesShift,
  toneAdapts,
  toneUndecided,
  toneIsLocal,
} from './camera';
import { FAULT_REMEDIES } from './faults';
import { evenWallMissing, noGraduation } from './graduated';
import { orderSuspect, stepsMerged } from './kit';
import { badLevels, framesApart, leavesOut, lightDrifted, lightJumped, repeatsApart, whiteBalanceAutomatic, whiteBalanceDiffers } from './light'; // prettier-ignore
import { motionInWords, type MotionFound } from './motion';
import { joined, percent, quoted } from './numbers';
import { blurredOneWay, frameSharpnessWithheld, notLaid, nothingTextured, ownPicturesDiffer, takeIsMute } from './ordinary'; // prettier-ignore
import { bareTurnMissing, brightestWithheld, cutWithheld, extinctionWithheld, glareInWords, headingsClipped, referenceMissing, ringAngleAsked, ringAnglesLost, skyInWords, sweepInWords, sweepTooShort, turnInWords } from './polarizer'; // prettier-ignore
import { exposureContradicted, exposureMissing, exposureMovedInside, missingExposure, primariesConverted, responseAssumed, samePictureElsewhere, samePictureTwice, sizeDiffers, turnWithoutPatches, unreadableFile, unreadableTelemetry, viewDiffers, whiteBalanceMovedInside } from './reading'; // prettier-ignore
import { bracketMisfit, bracketUnusable, responseMisfit } from './response';
import { cornersWithheld, fieldClipped } from './shading';
import { bareSofter, edgeRefused, pictureShaken, sharpnessWithheld, softnessInWords } from './sharpness';
import { bareMissing, bareUnusable, castWithheld, lightPolarized, placesDisagree, strengthWithheld, unpolarizedMissing } from './strength'; // prettier-ignore
import { marksInWords, marksMissing, markWithheld } from './variable';

test('shares in percent, two decimals where they are small', () => {
  expect([percent(0.0025), percent(0.125), percent(0.01), percent(0)]).toEqual(['0.25 %', '12.5 %', '1.0 %', '0.00 %']);
  expect(quoted(['a', 'b'])).toBe('“a”, “b”');
  expect([joined([]), joined(['a']), joined(['a', 'b']), joined(['a', 'b', 'c'])]).toEqual([
    '',
    'a',
    'a and b',
    'a, b and c',
  ]);
});

const cause = bareMissing(['b'], ['chart']);
/** [fault, code, severity, a part that carries its figures and names] */
const FAULTS: [Fault, keyof typeof FAULT_REMEDIES, Fault['severity'], string][] = [
  [unreadableFile('t', 'a.tif', 'it is empty.'), 'file-unreadable', 'error', 'a.tif can’t be read: it is empty.'],
  [unreadableTelemetry('t', 'a.srt', 'no cue.'), 'file-unreadable', 'warning', 'a.srt, the telemetry of t, can’t be read: no cue.'],
  [exposureMissing('t', missingExposure(['ISO'])), 'exposure-missing', 'error', 't: ISO is neither in the session nor in the file.'],
  [exposureMissing('t', missingExposure(['shutter', 'ISO'])), 'exposure-missing', 'error', 'shutter and ISO are neither'],
  [exposureMovedInside('t', 0.5, true), 'exposure-moved', 'warning', 'by 0.50 stop inside the clip; the session gives one exposure'],
  [exposureMovedInside('t', 0.5, false), 'exposure-moved', 'warning', 'each frame is taken at its own exposure'],
  [whiteBalanceMovedInside('t', 4300, 5600), 'white-balance-moved', 'error', 'from 4300 to 5600 K; its cast is withheld'],
  [exposureContradicted('t', 'a.jpg', ['shutter', 'ISO'], 1.26), 'exposure-moved', 'warning', 'contradict the session’s shutter and ISO, by 1.3 stop'],
  [responseAssumed(['t']), 'response-unknown', 'warning', 'sRGB was assumed'],
  [primariesConverted(['t'], null), 'color-space-differs', 'info', '(embedded profile)'],
  [samePictureElsewhere(['bare', 'nd8'], ['a.tif', 'b.tif'], true), 'same-picture', 'error', 'a.tif and b.tif are one and the same picture, yet bare and nd8 say different things of it'],
  [samePictureElsewhere(['bare', 'nd8'], ['a.tif'], false), 'same-picture', 'warning', 'a.tif is one picture, yet bare and nd8 say different things of it: unless it was computed'],
  [samePictureTwice(['bare'], ['a.tif', 'b.tif'], true), 'same-picture', 'warning', 'are one and the same picture: it is counted once'],
  [samePictureTwice(['bare'], ['a.tif'], false), 'same-picture', 'warning', 'a.tif is there twice: a copy tells nothing new, so the ± may be too small'],
  [sizeDiffers('t', 'a.tif', { width: 3, height: 2 }, { width: 6, height: 4 }), 'size-differs', 'error', '3 × 2 pixels, the bare picture 6 × 4; it is left out'],
  [viewDiffers('view-moved', 't', 'a.tif', 'the view moved by 5 %'), 'view-moved', 'error', 'a.tif: the view moved by 5 %; it is left out.'],
  [turnWithoutPatches('t', 'hill', ['sky', 'reference']), 'reference-missing', 'error', '“hill” has no sky and no reference patch'],
  [bracketUnusable([]), 'response-unknown', 'warning', 'The session has no bracket takes to recover'],
  [bracketUnusable(['a']), 'response-unknown', 'warning', 'too few or too much clipped to recover'],
  [bracketMisfit(['a'], 0.031), 'response-misfit', 'warning', 'lie 0.03 stop off the curve'],
  [curveUnchecked(['a'], 'sRGB'), 'curve-unknown', 'warning', 'The files tell a standard curve (sRGB), but cameras bend it'],
  [curvesDiffer(['a']), 'curve-unknown', 'warning', 'These files tell another curve than the others of the session'],
  [curveUnsettled(['a']), 'curve-unknown', 'warning', 'No single curve fits these pictures'],
  [toneAdapts(['a'], -0.052), 'tone-automatic', 'warning', '0.05 stop a stop for each stop that a picture is darker'],
  [toneUndecided(['a'], 0.031), 'tone-undecided', 'info', '(up to 0.03 stop a stop for each stop)'],
  [picturesShift(['a'], 0.08), 'tone-automatic', 'warning', 'up to 0.08 stop brighter or darker than their exposures say'],
  [toneIsLocal(['a'], -0.2), 'tone-local', 'warning', 'by a factor of 1.20 against what lies around'],
  [strengthWithheld(['t'], { value: 2, u95: 0.4 }, 0.15, 'response', false), 'curve-unknown', 'error', 'Most of that is response.'],
  [strengthWithheld(['t'], { value: 2, u95: 0.6 }, 0.15, 'light drift', false), 'light-jumped', 'error', 'Most of that is light drift.'],
  [strengthWithheld(['t'], { value: 2, u95: 0.3 }, 0.15, 'repeats', false), 'repeats-disagree', 'error', 'uncertain by 0.30 stop'],
  [castWithheld(['t'], 3, 'response'), 'curve-unknown', 'error', 'uncertain by ΔE00 3.0'],
  [cornersWithheld('wall', 4, 'response'), 'curve-unknown', 'error', '4 of the corners'],
  [responseMisfit(['a'], 'gray', 0.06, 2), 'response-misfit', 'warning', '“gray” comes out 0.06 stop different over exposures 2.0 stops apart'],
  [badLevels('clipped', { take: 't', patch: 'gray', share: 0.02, count: 3, of: 4 }), 'clipped', 'error', '2.0 % of “gray” is clipped, so its level is not known; the picture is left out. So are 2 more of its 4 pictures.'],
  [badLevels('black', { take: 't', patch: 'gray', share: 0.6, count: 1, of: 1 }), 'too-dark', 'error', '60.0 % of “gray” is black in one channel; the picture is left out.'],
  [badLevels('dark', { take: 't', patch: 'gray', share: 0.02, count: 1, of: 1 }), 'too-dark', 'warning', 'what lies below is estimated and adds to the ±.'],
  [lightDrifted(['a'], 'chart', 0.2), 'light-drifted', 'warning', 'drifted by 0.20 stop over the bare takes of “chart”'],
  [lightJumped(['a', 'b'], 'chart', 0.4), 'light-jumped', 'warning', 'jumped by 0.40 stop between a and b of “chart”'],
  [framesApart('t', 0.1), 'exposure-moved', 'warning', 'its frames lie 0.10 stop apart'],
  [repeatsApart('t', 0.1), 'repeats-disagree', 'warning', 'The repeats of t lie 0.10 stop apart'],
  [whiteBalanceDiffers('t', 'chart', 'cloudy', ['daylight', 5600]), 'white-balance-moved', 'error', '“cloudy”, the bare takes of “chart” at “daylight, 5600”'],
  [whiteBalanceAutomatic(['t'], 'chart'), 'white-balance-moved', 'warning', 'The white balance of “chart” was automatic'],
  [strengthWithheld(['t'], { value: 2, u95: 0.2 }, 0.15, 'noise', false), 'too-dark', 'error', 'uncertain by 0.20 stop, more than 0.15; it is withheld. Most of that is noise.'],
  [placesDisagree(['t'], 0.06, 3.14), 'scenes-disagree', 'warning', 'disagree by 0.06 stop, 3.1 times what their ± allows'],
  [castWithheld(['t'], 2.54), 'too-dark', 'error', 'uncertain by ΔE00 2.5; it is withheld'],
  [lightPolarized(['t'], 'chart', 0.04, true), 'light-polarized', 'info', '0.04 stop with the ring; the mean over a whole turn is given'],
  [lightPolarized(['t'], 'chart', 0.04, false), 'light-polarized', 'warning', 'don’t lie 90° apart'],
  [bareUnusable(['t'], cause), 'bare-missing', 'error', `No usable bare picture to compare with. ${cause.message}`],
  [unpolarizedMissing(['t']), 'unpolarized-missing', 'warning', 'before polarized light only'],
  [cause, 'bare-missing', 'error', 'There is no usable bare take of “chart” to compare with.'],
  [edgeRefused('t', 'e', { file: 'a.tif', refusal: { reason: 'few codes', codes: 4 }, count: 1, of: 1 }), 'edge-unusable', 'error', 'a.tif: the edge “e” can’t be used, only 4 codes lie between'],
  [edgeRefused('t', 'e', { file: 'a.tif', refusal: { reason: 'noisy', contrastToNoise: 1.2 }, count: 2, of: 3 }), 'edge-unusable', 'error', '2 of 3 pictures of t: the edge “e” can’t be used, its contrast is only 1.2 times'],
  [pictureShaken('t', 'a.tif', 0.1), 'soft-by-motion', 'warning', 'a.tif is softer than the sharpest repeat of t by 10.0 %'],
  [bareSofter('b', 'chart', 0.08), 'focus-moved', 'warning', 'The bare take b is softer than the other bare takes of “chart” by 8.0 %'],
  [sharpnessWithheld(['t'], 'e', 0.2), 'edge-unusable', 'error', 'Sharpness at “e” would be uncertain by 0.20'],
  [fieldClipped([], 'wall', 0.3), 'clipped', 'error', '30.0 % of the field “wall” is clipped; shading is withheld'],
  [cornersWithheld('wall', 2), 'too-dark', 'error', '2 of the corners of “wall” would be uncertain by more than 0.1 stop'],
  [sweepTooShort(['t'], 'screen', 0), 'sweep-too-short', 'error', 'has no noted angle; three are needed'],
  [sweepTooShort(['t'], 'screen', 1), 'sweep-too-short', 'error', 'has 1 different angle; three'],
  [sweepTooShort(['t'], 'screen', 2), 'sweep-too-short', 'error', 'has 2 different angles; three'],
  [ringAngleAsked('t', null, [30, 150]), 'ring-angle-missing', 'warning', 't notes no ring angle. By its light it fits 30° or 150°; it is left out'],
  [ringAngleAsked('t', 45, [30]), 'ring-angle-doubtful', 'warning', 't is noted at 45°, but by its light it fits 30°'],
  [ringAngleAsked('t', 45, []), 'ring-angle-doubtful', 'warning', 'no angle at all: is it a picture of this filter?'],
  [brightestWithheld(['t'], 'screen', 0.2), 'sweep-too-short', 'error', 'uncertain by 0.20 stop; it is withheld'],
  [extinctionWithheld(['t'], 'screen', 7.25), 'too-dark', 'warning', 'deeper than 7.3 stops under the brightest'],
  [referenceMissing('puddle', 'water'), 'reference-missing', 'error', '“puddle” has no usable reference patch beside it in “water”'],
  [ringAnglesLost(['t'], 'puddle', 5, 2), 'ring-angles-lost', 'error', 'of its 5 ring angles only 2 can be used'],
  [cutWithheld(['t'], 'puddle', 0.4), 'too-dark', 'error', 'What it does at “puddle” would be uncertain by 0.40 stop'],
  [bareTurnMissing(['t'], 'hill'), 'bare-missing', 'error', 'The turn of “hill” has no usable bare turn'],
  [headingsClipped(['t'], 3, 24), 'clipped', 'warning', '3 of 24 headings of the turn are clipped'],
  [marksMissing(['a', 'b']), 'mark-missing', 'warning', 'a, b: no mark is noted'],
  [markWithheld(['a'], 3, { value: 4, u95: 0.2 }, 'noise'), 'too-dark', 'error', 'Mark 3 would be uncertain by 0.20 stop; it is withheld. Most of that is noise.'],
  [markWithheld(['a'], 3, { value: 4, u95: 0.2 }, 'response'), 'curve-unknown', 'error', 'Most of that is response.'],
  [noGraduation(['a'], 'wall', 'grad'), 'scenes-disagree', 'error', '“wall” shows no graduation of grad'],
  [evenWallMissing(['a']), 'field-missing', 'error', 'measured over an even wall, and none was shot with it'],
  [notLaid('t', { lost: 2, of: 3, why: 'too dark', file: 'a', tried: 'b' }, false), 'registration-failed', 'warning', '2 of its 3 pictures could not be laid on a bare one; too dark (a on b). The others speak.'],
  [notLaid('t', { lost: 3, of: 3, why: 'too dark', file: 'a', tried: 'b' }, true), 'registration-failed', 'error', 'none of its pictures could be laid on a bare one; too dark (a on b). It is left out.'],
  [takeIsMute('t', 'clipped'), 'clipped', 'error', 'nearly all of it, or of bare, is clipped; it is left out'],
  [takeIsMute('t', 'dark'), 'too-dark', 'error', 'is black; it is left out'],
  [takeIsMute('t', 'moved'), 'registration-failed', 'error', 'nothing in it stands still'],
  [takeIsMute('t', 'unconnected'), 'registration-failed', 'error', 'lies on no other'],
  [frameSharpnessWithheld(['t'], 'walk', 0.2), 'edge-unusable', 'error', 'Sharpness on “walk” would be uncertain by 0.20'],
  [ownPicturesDiffer(['t'], 'ND8', { range: 0.12, sharpest: 2, of: 5 }), 'soft-by-motion', 'warning', 'differ in sharpness by 0.12, more than the filter takes; wind or the camera moved. The 2 sharpest of 5 speak.'],
  [blurredOneWay(['t'], 'ND8', 0.7, 0.95), 'soft-by-motion', 'warning', 'kept 0.70 across, 0.95 up and down'],
  [orderSuspect({ name: 'ND4', stops: 3, takes: ['a'] }, { name: 'ND8', stops: 2, takes: ['b'] }, true), 'order-suspect', 'warning', 'ND4 came out darker than ND8 (3.00 against 2.00 stops), although its label is lighter. Exchanged, both would fit'],
  [stepsMerged(['a'], 'ND32', 'ND64', 0.1, 1), 'steps-merged', 'warning', 'ND32 and ND64 are nearly the same filter: 0.10 stop apart instead of 1.00.'],
]; // prettier-ignore

test.each(FAULTS.map(([fault, ...rest]) => [fault.message.slice(0, 60), fault, ...rest] as const))(
  '%s …',
  (_, fault, code, severity, part) => {
    expect({ code: fault.code, severity: fault.severity }).toEqual({ code, severity });
    expect(fault.message).toContain(part);
    expect(fault.message).toMatch(/[.?]$/);
    expect(fault.remedy).toBe(FAULT_REMEDIES[code]);
  },
);

test('a fault names each take once', () => expect(lightJumped(['a', 'a'], 'chart', 0.2).takes).toEqual(['a']));

test('only what is unsure of a level leaves its picture in', () =>
  expect(['clipped', 'black', 'dark'].map((one) => leavesOut(one as 'dark'))).toEqual([true, true, false]));

test('a withheld strength keeps what it came out as, and asks for what wasn’t shot yet', () => {
  const by = (mostly: string, hasDarker: boolean, value = 2) => strengthWithheld(['t'], { value, u95: 0.2 }, 0.15, mostly, hasDarker); // prettier-ignore
  expect(by('response', false)).toMatchObject({ around: { value: 2, u95: 0.2 }, remedy: expect.stringMatching(/^Drop two more bare/) as unknown }); // prettier-ignore
  expect(by('response', true).remedy).toMatch(/^Shoot it again with a longer shutter, as bright as a bare picture/);
  expect(by('light drift', true).remedy).toBe(by('light drift', false).remedy);
  expect(by('noise', false, Infinity)).not.toHaveProperty('around');
});

test('where nothing textured was shot the remedy is another picture, not another edge', () =>
  expect(nothingTextured(['t'], 'walk')).toMatchObject({
    severity: 'info',
    remedy: expect.stringContaining('fine detail'),
  }));

describe('softness', () => {
  const told = (softness: Parameters<typeof softnessInWords>[0]) => softnessInWords(softness, 'ND8', ['t']);
  test('of the filter: a sentence and no fault', () => {
    const { sentence, faults } = told({ cause: 'filter', kept: { center: 0.8, corner: 0.79 } });
    expect(sentence).toBe('Center and corners are blurred alike, as by the filter itself (0.80 in the center, 0.79 in the corners).');
    expect(faults).toEqual([]);
  }); // prettier-ignore
  test.each([
    [{ cause: 'focus', kept: { center: 0.9, corner: 0.6 } } as const, 'focus-moved', 'a shift of focus between the takes has a part in it'],
    [{ cause: 'sharper than bare', patches: ['a', 'b'] as string[] } as const, 'focus-moved', 'sharper than bare at “a”, “b”, which no filter does'],
    [{ cause: 'shake', way: 'sideways' } as const, 'soft-by-motion', 'blurred sideways only, as by a shake'],
  ])('of something else: a fault that says so', (softness, code, part) => {
    const { sentence, faults } = told(softness);
    expect(faults).toEqual([expect.objectContaining({ code, severity: 'warning', message: sentence })]);
    expect(sentence).toContain(part);
  }); // prettier-ignore
  test('none, or not to be told', () => {
    expect(told({ cause: 'none' })).toEqual({ sentence: null, faults: [] });
    expect(told({ cause: 'untold' }).sentence).toContain('edges in center and corners tell them apart');
  });
});

describe('polarizers', () => {
  test('a sweep by how well it follows the law, and its mark', () => {
    const fits = { kind: 'fits', takes: 7, residualStops: 0.0012 } as const;
    expect(sweepInWords(fits, null)).toBe('The 7 takes follow the cos² law to 0.001 stop.');
    expect(sweepInWords(fits, { value: 0.2, u95: 0.3 })).toMatch(/^The mark is where it should be\./);
    expect(sweepInWords(fits, { value: -4, u95: 0.3 })).toMatch(/^The mark is 4\.0° off\./);
    expect(sweepInWords(fits, { value: 40, u95: 0.3 })).toMatch(/^The mark is 40° off\./);
    expect(sweepInWords({ kind: 'unchecked' }, null)).toContain('seven would');
    expect(sweepInWords({ kind: 'angles', degrees: 1.26 }, null)).toContain('read to 1.3°');
    expect(sweepInWords({ kind: 'scatter', stops: 0.0123 }, null)).toContain('0.012 stop beyond their noise');
  });

  test('glare beside what Fresnel allows', () => {
    expect(glareInWords(2, 'metal')).toContain('nothing for any polarizer to cut');
    expect(glareInWords(2)).toContain('Enter what reflects');
    expect(glareInWords(2, 'water', 5)).toContain('There is nothing to do at this angle');
    expect(glareInWords(3, 'water', 53)).toMatch(/more than 6 stops \(all of it at 53°\); this is less/);
    expect(glareInWords(0.5, 'water', 53)).toContain('far less');
    expect(glareInWords(5.5, 'water', 53)).toContain('about that');
  });

  test('a sky beside what Rayleigh allows', () => {
    expect(skyInWords(1, null)).toContain('Enter the angle to the sun');
    // At 90°: −log2(1 − 0.5) = 1.0 and −log2(1 − 0.85) = 2.7 stops.
    expect(skyInWords(1, 90)).toBe('It darkens the sky by 1.00 stops at best. 90° from the sun a hazy sky allows about 1.0, a very clear one 2.7 stops.');
  }); // prettier-ignore

  test('a turn by its darkest heading and the sun', () => {
    const [dark, light] = [
      { heading: 240, stops: { value: 1.5 } },
      { heading: 150, stops: { value: 0.1 } },
    ];
    expect(turnInWords(dark, light, 90)).toContain('That is 90° from the sun’s heading');
    expect(turnInWords(dark, light, null)).toContain('Enter the place');
  });
});

describe('marks', () => {
  const reading = (value: number) => ({ value, u95: 0.01 });
  const found = { lightest: reading(1.5), darkest: reading(5), cross: null, turned: null, residualStops: 0 };
  test('the plain case', () =>
    expect(marksInWords(found)).toEqual([
      'It goes from 1.50 to 5.00 stops.',
      'No crossed pattern shows at any mark measured.',
      'Marks were approached from one side only; approach them from both, and the play of the ring is told.',
    ]));
  test('a cross, play of the ring, marks that don’t run one way', () => {
    const words = marksInWords({
      ...found,
      cross: { mark: 4.2, stops: 3.9 },
      turned: reading(-0.08),
      residualStops: 0.06,
    });
    expect(words[1]).toContain('begins at mark 4.2 (3.9 stops)');
    expect(words[2]).toContain('takes 0.08 stop less than from below');
    expect(words[3]).toContain('depart by 0.06 stop');
    expect(marksInWords({ ...found, turned: reading(0.005) })[2]).toContain('no difference');
  });
});

describe('motion', () => {
  const reading = (value: number, u95 = 0.1) => ({ value, u95 });
  const still: MotionFound = { spreadPx: 0.1, frames: 50, lost: 0 };
  test('blur and shutter angle, with bare’s', () => {
    const own = { ...still, blurPx: reading(3), shutterAngle: 180, jumpPx: reading(6) };
    const bare = { ...still, blurPx: reading(1), shutterAngle: 60 };
    expect(motionInWords(own, bare)[0]).toContain('draws 3.0 px while the shutter is open, at a shutter angle of 180°');
    expect(motionInWords(own, bare)[0]).toContain('Bare it drew 1.0 px at 60°.');
    expect(motionInWords(own, null)).toHaveLength(1);
  });
  test('a short shutter on a fast pan stutters', () => {
    const words = motionInWords({ ...still, blurPx: reading(1), shutterAngle: 45, jumpPx: reading(8) }, null);
    expect(words[1]).toBe('It jumps 8.0 px from frame to frame and is smeared over 13 % of that alone: it will be seen to stutter.');
  }); // prettier-ignore
  test('an angle seen beside one that was told, or alone', () => {
    const seen = (value: number) => motionInWords({ ...still, seenAngle: reading(value, 8), shutterAngle: 180, blurPx: reading(2) }, null).at(-1); // prettier-ignore
    expect(seen(170)).toContain('as was told');
    expect(seen(90)).toContain('and not of the 180° that was told');
    expect(motionInWords({ ...still, seenAngle: reading(90, 8) }, null)[0]).toContain('No exposure was told');
  });
  test('shake against bare’s, and frames that were lost', () => {
    const shaken = (own: number) => motionInWords({ ...still, jitterPx: reading(own) }, { ...still, jitterPx: reading(1) });
    expect(shaken(1.1)[0]).toContain('as much as bare did');
    expect(shaken(3)[0]).toContain('2.00 px more than bare did');
    expect(shaken(0.2)[0]).toContain('0.80 px less than bare did');
    expect(motionInWords({ ...still, lost: 3 }, null)[0]).toContain('3 of 50 frames could not be laid');
  }); // prettier-ignore
});

test('what a learned response rests on', () => {
  expect(learnedInWords('sRGB, assumed', 12, 3)).toBe(
    'sRGB, assumed, checked by 12 pictures over 3.0 stops of known exposures',
  );
  expect(learnedInWords('sRGB', 12, 0)).toMatch(/^sRGB, not checked: no two pictures of one view/);
});

test('a withheld mark says what it came out as, and asks for no darker pictures where there were some', () => {
  const around = { value: 4, u95: 0.2 };
  expect(markWithheld(['a'], 3, around, 'response').remedy).toContain('darker');
  const told = markWithheld(['a'], 3, around, 'response', true);
  expect(told.around).toEqual(around);
  expect(told.remedy).toContain('Shoot it again with a longer shutter');
  expect(markWithheld(['a'], 3, { value: NaN, u95: Infinity }, 'noise')).not.toHaveProperty('around');
});
