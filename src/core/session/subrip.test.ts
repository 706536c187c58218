import { cueAt, parseSubRip } from './subrip';

const CUES = `\uFEFF1
00:00:00,000 --> 00:00:00,033
<font size="28">FrameCnt: 1, DiffTime: 33ms
2026-05-14 09:02:00.000
[iso: 100] [shutter: 1/240.0] [fnum: 2.8] [ev: 0.3] [ct: 5600] [latitude: 51.5] [longitude: -1.25] [rel_alt: 12.300 abs_alt: 80.1]</font>

2
00:00:00,033 --> 00:00:00,067
ISO:200 Shutter:1/120 F/2.8 EV:-1

3
00:01:00.5 --> 00:01:01.0
fnum: 280, SHUTTER = 0.5s, Iso=64
`;

describe('SubRip telemetry', () => {
  const cues = parseSubRip(CUES.replace(/\n/g, '\r\n'));

  test('keys in any order and case, with and without brackets', () => {
    expect(cues[0].exposure).toEqual({ shutterSeconds: 1 / 240, iso: 100, fNumber: 2.8 });
    expect(cues[0]).toMatchObject({ from: 0, to: 0.033, ev: 0.3, colorTemperature: 5600 });
    expect(cues[0].place).toEqual({ latitude: 51.5, longitude: -1.25, relativeAltitude: 12.3, absoluteAltitude: 80.1 });
    expect(cues[1].exposure).toEqual({ shutterSeconds: 1 / 120, iso: 200, fNumber: 2.8 });
    expect(cues[1].ev).toBe(-1);
    expect(cues[2].exposure).toEqual({ shutterSeconds: 0.5, iso: 64, fNumber: 2.8 });
    expect(cues[2].from).toBeCloseTo(60.5, 9);
  });

  test('a cue holds from its start up to its end, the end excluded', () => {
    expect(cueAt(cues, 0)).toBe(cues[0]);
    expect(cueAt(cues, 0.033)).toBe(cues[1]);
    expect(cueAt(cues, 0.067)).toBeNull();
    expect(cueAt(cues, 61)).toBeNull();
  });

  test('text that is none is told', () => {
    expect(() => parseSubRip('shutter: 1/100')).toThrow('no cue');
  });
});
