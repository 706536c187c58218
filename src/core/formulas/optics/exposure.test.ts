import {
  exposureLog2,
  exposureValue,
  formatShutter,
  illuminanceLux,
  luminance,
  parseShutter,
  shutterForAngle,
  shutterMark,
  snapShutterMark,
  strengthNeeded,
  writeFNumber,
  writeIso,
  writeShutter,
} from './exposure';

describe('exposure', () => {
  test('EV 0 at ISO 100 is 2.5 lx and 0.125 cd/m² (ISO 2720, C = 250, K = 12.5)', () => {
    expect(illuminanceLux(0, 100)).toBe(2.5);
    expect(luminance(0, 100)).toBe(0.125);
    expect(exposureValue(1, 1)).toBe(0);
    // Sunny 16: 1/125 s at f/16, ISO 100, is EV 15, about 82,000 lx.
    expect(exposureValue(1 / 125, 16)).toBeCloseTo(14.966, 3);
    expect(illuminanceLux(15, 100)).toBe(81920);
  });

  test.each([
    ['1/2000', 1 / 2000],
    ['1/240.0', 1 / 240],
    ['2.5', 2.5],
    ['2.5s', 2.5],
    [0.004, 0.004],
    ['fast', null],
    ['1/0', null],
    ['-1', null],
    [0, null],
  ])('shutter %s is %s s', (text, seconds) => expect(parseShutter(text)).toBe(seconds));

  test('marks of the third-stop series', () => {
    expect(snapShutterMark(1 / 60)).toBe(2 ** -6);
    expect(snapShutterMark(1 / 2000)).toBeCloseTo(2 ** -11, 12);
    expect(snapShutterMark(1 / 50)).toBeCloseTo(2 ** (-17 / 3), 12);
  });

  test('180° at 30 frames is 1/60 s', () => expect(shutterForAngle(180, 30)).toBeCloseTo(1 / 60, 12));

  test('shutters with and without a filter (common practice, no source)', () => {
    // ND64 took 1/1600 to 1/20, ND256 to 1/6, ND8 took 1/800 to 1/120; each within the ±0.7 EV that is workable.
    expect(strengthNeeded(1 / 20, 1 / 1600)).toBeCloseTo(6.32, 2);
    expect(strengthNeeded(1 / 6, 1 / 1600)).toBeCloseTo(8.06, 2);
    expect(strengthNeeded(1 / 120, 1 / 800)).toBeCloseTo(2.74, 2);
  });

  test('t·ISO/N² in stops', () => {
    const bare = exposureLog2({ shutterSeconds: 1 / 2000, iso: 100, fNumber: 2.8 });
    expect(exposureLog2({ shutterSeconds: 1 / 250, iso: 100, fNumber: 2.8 }) - bare).toBeCloseTo(3, 12);
    expect(exposureLog2({ shutterSeconds: 1 / 2000, iso: 400, fNumber: 2.8 }) - bare).toBeCloseTo(2, 12);
    expect(exposureLog2({ shutterSeconds: 1 / 2000, iso: 100, fNumber: 5.6 }) - bare).toBeCloseTo(-2, 12);
  });

  test('shutters read as people write them', () => {
    expect(formatShutter(1 / 2000)).toBe('1/2000 s');
    expect(formatShutter(2.5)).toBe('2.5 s');
    expect(formatShutter(1 / 6.3)).toBe('1/6.3 s');
  });
});

test('the mark of a time: 2^(k/3) s as it is engraved (1/64 is marked 1/60, 1/101.6 is 1/100)', () => {
  expect(shutterMark(1 / 64)).toBe(1 / 60);
  expect(shutterMark(2 ** (-20 / 3))).toBe(1 / 100);
  expect(shutterMark(2 ** (-5 / 3))).toBe(0.3);
  expect(shutterMark(1 / 8192)).toBe(1 / 8000);
  expect(shutterMark(120)).toBe(120);
  expect([1 / 64, 1 / 60, 2 ** (-5 / 3), 1 / 99].map(writeShutter)).toEqual(['1/60 s', '1/60 s', '0.3 s', '1/99 s']);
});

test('ISO speeds and f-numbers are written as dials have them engraved, thirds and halves of a stop; others as they are', () => {
  const thirds = (from: number, perStop: number) => Array.from({ length: 10 }, (_, k) => from * 2 ** (k / 3 / perStop));
  expect(thirds(100, 1).map(writeIso)).toEqual(['100', '125', '160', '200', '250', '320', '400', '500', '640', '800']);
  expect(writeIso(1008)).toBe('1000');
  expect(writeIso(20319)).toBe('20000');
  expect(writeIso(280)).toBe('280');
  expect(thirds(4, 2).map(writeFNumber)).toEqual(['4.0', '4.5', '5.0', '5.6', '6.3', '7.1', '8.0', '9.0', '10', '11']);
  expect([4.757, 6.727, 22.63, 1.7, 2.8, 1.95].map(writeFNumber)).toEqual(['4.8', '6.7', '22', '1.7', '2.8', '2.0']);
});
