/** Takes into pictures: stills, frames of clips, and what telemetry says of their moments. */
import { parseSession } from '../session/parse';
import type { Take } from '../session/schema';
import { type PictureSource } from './source';
import { UnreadablePicture, type PictureFacts } from './facts';
import { timesOf } from './exposures';
import { shotsOf, withTelemetry } from './shots';

const SRT = (values: string[]) =>
  values.map((value, i) => `${i + 1}\n00:00:0${i},000 --> 00:00:0${i + 1},000\n${value}\n`).join('\n');
const STEADY = SRT(['[iso: 100] [shutter: 1/50]', '[iso: 100] [shutter: 1/50]', '[iso: 100] [shutter: 1/50]']);

function takesOf(changes: Record<string, unknown>): Take[] {
  return parseSession({
    format: 'aurora-glade-session',
    version: 1,
    scenes: [{ id: 'chart', kind: 'chart' }],
    takes: [{ id: 'run', filter: null, scene: 'chart', files: ['run.mp4'], ...changes }],
  }).takes;
}

function source(texts: Record<string, string>): PictureSource {
  return {
    async frames(file, span) {
      if (file === 'broken.mp4') throw new UnreadablePicture(file, 'the clip is cut short or damaged.');
      if (!file.endsWith('.mp4')) return null;
      const from = span?.from ?? 0;
      return [0.5, 1.5, 2.5].filter((at) => at >= from).map((seconds) => ({ file: `${file}#t=${seconds}`, seconds }));
    },
    async open() {
      throw new Error('nothing is read here');
    },
    async readText(file) {
      if (!(file in texts)) throw new Error('there is no such file.');
      return texts[file];
    },
  };
}

test('a clip becomes its frames, each with its cue; a still stays one', async () => {
  const takes = [...takesOf({ telemetry: 'run.srt' }), ...takesOf({ id: 'still', files: ['a.tif'] })];
  const { shots, faults } = await shotsOf(takes, source({ 'run.srt': STEADY }));
  expect(faults).toEqual([]);
  expect(shots.map(({ file, seconds }) => [file, seconds])).toEqual([
    ['run.mp4#t=0.5', 0.5],
    ['run.mp4#t=1.5', 1.5],
    ['run.mp4#t=2.5', 2.5],
    ['a.tif', null],
  ]);
  expect(shots[1].cues).toHaveLength(3);
  expect(shots[3].cues).toEqual([]);
});

test('the span is asked of the source', async () => {
  const { shots } = await shotsOf(takesOf({ span: { from: 1, to: 3 } }), source({}));
  expect(shots.map(({ seconds }) => seconds)).toEqual([1.5, 2.5]);
});

test('an exposure that changes inside the clip is told with its size', async () => {
  const moving = SRT(['[iso: 100] [shutter: 1/50]', '[iso: 200] [shutter: 1/50]', '[iso: 200] [shutter: 1/50]']);
  const followed = await shotsOf(takesOf({ telemetry: 'run.srt' }), source({ 'run.srt': moving }));
  expect(followed.faults[0].fault).toMatchObject({ code: 'exposure-moved', severity: 'warning', takes: ['run'] });
  expect(followed.faults[0].fault.message).toContain(
    '1.00 stop inside the clip; each frame is taken at its own exposure',
  );
  const said = takesOf({ telemetry: 'run.srt', exposure: { shutter: '1/50', iso: 100 } });
  const fixed = await shotsOf(said, source({ 'run.srt': moving }));
  expect(fixed.faults[0].fault.message).toContain('can’t be right throughout');
});

test('a white balance that changes withholds the cast', async () => {
  const moving = SRT(['[ct: 5600]', '[ct: 5600]', '[ct: 4300]']);
  const { faults } = await shotsOf(takesOf({ telemetry: 'run.srt' }), source({ 'run.srt': moving }));
  expect(faults.map(({ fault }) => [fault.code, fault.severity])).toEqual([['white-balance-moved', 'error']]);
  expect(faults[0].fault.message).toContain('from 4300 to 5600 K');
});

test('a change outside the frames that are measured is no matter', async () => {
  const late = `${STEADY}\n4\n00:00:03,000 --> 00:00:04,000\n[iso: 800] [shutter: 1/50]\n`;
  expect((await shotsOf(takesOf({ telemetry: 'run.srt' }), source({ 'run.srt': late }))).faults).toEqual([]);
});

test('clips and telemetry that can’t be read are told, the rest goes on', async () => {
  const broken = await shotsOf(takesOf({ files: ['broken.mp4', 'run.mp4'] }), source({}));
  expect(broken.shots).toHaveLength(3);
  expect(broken.faults[0].fault).toMatchObject({ code: 'file-unreadable', severity: 'error' });
  const silent = await shotsOf(takesOf({ telemetry: 'gone.srt' }), source({}));
  expect(silent.shots).toHaveLength(3);
  expect(silent.faults[0].fault).toMatchObject({ code: 'file-unreadable', severity: 'warning' });
  const none = await shotsOf(takesOf({ telemetry: 'run.srt' }), source({ 'run.srt': 'notes, not cues' }));
  expect(none.faults[0].fault.message).toContain('is it SubRip?');
});

describe('what is known where', () => {
  const facts: PictureFacts = {
    width: 4,
    height: 4,
    channels: 3,
    bitDepth: 16,
    encoding: { transfer: null, source: null, toXyz: null, profile: null },
    exposure: { iso: 400 },
    capturedAt: '2026-05-14T09:00:00.000Z',
    whiteBalance: null,
  };

  test('the file speaks before the telemetry', async () => {
    const { shots } = await shotsOf(
      takesOf({ telemetry: 'run.srt' }),
      source({ 'run.srt': SRT(['[iso: 100] [shutter: 1/50] [ct: 5600]']) }),
    );
    expect(withTelemetry(facts, shots[0]).exposure).toEqual({ iso: 400, shutterSeconds: 1 / 50 });
    expect(withTelemetry(facts, shots[0]).whiteBalance).toBe('5600 K');
    expect(withTelemetry(facts, { cues: [], seconds: 0 })).toBe(facts);
  });

  test('frames have moments of their own, counted from the start of the take', () => {
    const [take] = takesOf({ capturedAt: '2026-05-14T10:00:00Z' });
    const start = Date.parse('2026-05-14T10:00:00Z');
    const at = (seconds: number | null) => ({ take, facts, seconds });
    expect(timesOf([at(0.5), at(2.5)])).toEqual([start + 500, start + 2500]);
    const [open] = takesOf({});
    expect(timesOf([{ take: open, facts, seconds: 1 }])).toEqual([Date.parse(facts.capturedAt!)]);
    const silent = { ...facts, capturedAt: null };
    expect(timesOf([{ take: open, facts: silent, seconds: 1 }])).toEqual([1000]);
  });
});
