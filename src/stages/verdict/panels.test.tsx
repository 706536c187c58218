/** @jest-environment jsdom */
/** Panels of the verdict, of sessions that are really shot and measured: what stands there is what was found. */
import { screen, within } from '@testing-library/react';
import { QUIET_CAMERA, plainFilter, quietWall, smallBench, work, type Worked } from '@/core/testing/worked';
import { edgeName, fixed, plusMinus, signed } from '@/ui/format';
import { show } from '@/ui/testing/render';
import { viewOf } from '@/ui/testing/sessions';
import { ColorsPanel } from './ColorsPanel';
import { FlarePanel } from './FlarePanel';
import { GraduationPanel } from './GraduationPanel';
import { KitPanels } from './KitPanel';
import { MarksPanel } from './MarksPanel';
import { PolarizerPanel } from './PolarizerPanel';
import { ResponseNote } from './ResponseNote';
import { ShadingPanel } from './ShadingPanel';
import { SharpnessPanel } from './SharpnessPanel';
import { UpClose } from './UpClose';

// Curves are drawn on what jsdom has not; what they say in words is here.
jest.mock('@/ui/charts/CurveChart', () => ({ CurveChart: ({ label }: { label: string }) => <div role="img" aria-label={label} /> })); // prettier-ignore
jest.mock('@/ui/charts/ChartFigure', () => ({ ChartFigure: ({ title }: { title: string }) => <figure aria-label={title} /> })); // prettier-ignore

const text = () => document.body.textContent!;

describe('a chart, a wall and a lamp', () => {
  let worked: Worked;
  beforeAll(async () => {
    worked = await work(
      smallBench({
        width: 480,
        height: 320,
        camera: QUIET_CAMERA,
        scenes: ['chart', 'flat', 'flare'],
        filters: [
          plainFilter('nd4', 2.1, { cornerStops: 0.3, blurPx: 1.2, veil: 0.01 }),
          plainFilter('nd8', 3, { stops: [3.2, 3, 2.9] }),
        ],
      }),
      () => undefined,
      true,
    );
  });

  test('corners: the darkest with its ±, both maps on one scale', () => {
    const { shading, verdict } = worked.of('nd4');
    show(<ShadingPanel shading={shading!} words={[verdict.corners]} />);
    expect(screen.getByRole('heading', { name: /Corners/ })).toBeTruthy();
    expect(screen.getByText(/The filter adds/)).toBeTruthy();
    expect(text()).toContain(fixed(shading!.worst!.value, 3));
  });

  test('flare: the veil with its sign and ±, and how many ghosts', () => {
    const { flare } = worked.of('nd4');
    show(<FlarePanel flare={flare!} view={viewOf(worked.session)} />);
    expect(text()).toContain(`${signed(flare!.veilPercent.value)} % of veil ${plusMinus(flare!.veilPercent.u95)}`);
    expect(text()).toContain('no ghost');
  });

  test('sharpness: an edge a row, what each keeps', async () => {
    const { sharpness } = worked.of('nd4');
    const { user } = show(<SharpnessPanel sessionId="s" edges={sharpness!} word="slight" />);
    const rows = screen.getAllByRole('row').slice(1);
    expect(rows).toHaveLength(sharpness!.length);
    for (const [i, one] of sharpness!.entries()) {
      const row = screen.getByRole('row', { name: new RegExp(`^${edgeName(one.patch)} `) });
      expect(row.textContent).toContain(fixed(one.retained.value));
      if (i === 0) await user.click(within(row).getByRole('button', { name: edgeName(one.patch) }));
    }
    expect(screen.getByRole('button', { name: edgeName(sharpness![0].patch) }).getAttribute('aria-pressed')).toBe(
      'true',
    );
  });

  test('up close: every panel that has figures, and what is missing is said', () => {
    const view = viewOf(worked.session, { readings: worked.readings });
    const { unmount } = show(<UpClose readings={worked.of('nd4')} name="ND4" view={view} />);
    for (const name of [/Sharpness kept/, /Corners/, /Flare/])
      expect(screen.getByRole('heading', { name })).toBeTruthy();
    expect(text()).not.toContain('No figure for');
    unmount();
    const bare = { ...worked.of('nd4'), sharpness: undefined, shading: undefined };
    show(<UpClose readings={bare} name="ND4" view={view} />);
    expect(text()).toContain('No figure for sharpness and corners');
  });

  test('the kit as a whole: its step, its casts, its honest labels', () => {
    show(<KitPanels view={viewOf(worked.session, { readings: worked.readings })} />);
    const whole = within(screen.getByRole('region', { name: /as a whole$/ }));
    const [a, b] = [worked.of('nd4'), worked.of('nd8')].map((one) => one.density!.stops.value);
    expect(whole.getByRole('row', { name: /ND4 to ND8/ }).textContent).toContain(fixed(b - a));
    expect(whole.getByText('Honest labels')).toBeTruthy();
    expect(whole.getByText(/ND4 and ND8 differ most|ND8 and ND4 differ most/)).toBeTruthy();
  });

  test('a response that was learned: what it rests on, its share of a ±, its doubt', async () => {
    const learned = {
      checked: false,
      knownStops: 0,
      share: { filter: 'nd8', ofU95: 0.07, u95: 0.09 },
      curve: [
        [0.1, -7, 0.4],
        [0.5, -2, 0],
        [1, 0, 0.2],
      ] as [number, number, number][],
      automaticTone: { value: -0.04, u95: 0.01 },
      localTone: { value: 0.12, u95: 0.008 },
    };
    const response = { kind: 'file', description: 'sRGB, not checked', learned };
    const { user } = show(<ResponseNote response={response} nameOf={() => 'ND8'} />);
    expect(text()).toContain('Response: sRGB, not checked. Of the ±0.090 of ND8’s strength ±0.070 come from it.');
    expect(text()).toContain('Two more bare pictures with the same settings');
    await user.click(screen.getByRole('button', { name: 'The curve and its doubt' }));
    expect(text()).toContain('Tone adapts to the picture: 0.040 stop a stop.');
    expect(text()).toContain('by a factor of 1.120 ± 0.008');
  });

  test('a checked one asks for nothing', () => {
    const learned = { checked: true, knownStops: 3, curve: [[0.5, -2, 0] as [number, number, number]] };
    show(<ResponseNote response={{ kind: 'file', description: 'sRGB, checked', learned }} />);
    expect(text()).not.toContain('Two more bare pictures');
  });

  test('the response in a sentence', () => {
    show(<ResponseNote response={worked.readings.response} />);
    expect(text()).toMatch(/Response: .+\. ± is the expanded uncertainty at 95 %/);
    expect(screen.getByRole('link', { name: 'How the figures are made' }).getAttribute('href')).toBe('/method');
  });
});

test('a polarizer: brightest, darkest, axis and each take of the sweep', async () => {
  const worked = await work(
    smallBench({
      scenes: ['screen'],
      camera: QUIET_CAMERA,
      bareEvery: 3,
      filters: [plainFilter('pl', 1.5, { kind: 'polarizer', nominal: {}, polarizer: { axisDegrees: 12, extinctionStops: 6 } })], // prettier-ignore
      sweep: [5, 31, 57, 83, 109, 135, 161],
      polarization: { lightDegrees: 20, degree: 0.8 },
    }),
  );
  const { polarizer } = worked.of('pl');
  show(<PolarizerPanel polarizer={polarizer!} session={worked.session} />);
  for (const one of [polarizer!.brightest!, polarizer!.darkest!]) expect(text()).toContain(fixed(one.value));
  expect(text()).toContain(polarizer!.sweep!.sentence);
  expect(screen.getByRole('heading', { name: /Polarizer/ })).toBeTruthy();
});

test('a variable filter: a line a mark, and its sentences', async () => {
  const worked = await work(
    quietWall(
      plainFilter('vnd', 0, {
        kind: 'variable-nd',
        nominal: { stopsRange: [2, 5] },
        stops: [0, 0, 0],
        variable: { marks: [1, 2, 3].map((mark) => ({ mark, stops: 0.8 + 1.2 * mark })) },
      }),
    ),
  );
  const found = worked.of('vnd');
  show(<MarksPanel readings={found} />);
  expect(text()).toContain('3 marks');
  for (const { stops } of found.marks!) expect(text()).toContain(fixed(stops.value));
  for (const sentence of found.variable!.sentences) expect(text()).toContain(sentence);
});

test('a graduated filter: both halves and the line between', async () => {
  const worked = await work(
    quietWall(
      plainFilter('grad', 0, {
        kind: 'graduated-nd',
        nominal: { opticalDensity: 0.9 },
        stops: [0.05, 0.05, 0.05],
        graduation: { denseStops: [3, 3, 3], midline: 0.45, width: 0.2, angleDegrees: 8 },
      }),
    ),
  );
  const { graduation } = worked.of('grad');
  show(<GraduationPanel graduation={graduation!} />);
  for (const one of [graduation!.clearStops, graduation!.denseStops]) {
    expect(text()).toContain(fixed(one.value));
    expect(text()).toContain(plusMinus(one.u95));
  }
  expect(text()).toContain(`${fixed(100 * graduation!.midline!.value, 1)}`);
});

test('colors after levelling: a surface a row', () => {
  const reading = (value: number) => ({ value, u95: 0.01 });
  show(
    <ColorsPanel
      colors={[
        {
          patch: 'red',
          scene: 'chart',
          chromaRatio: reading(1.12),
          hueShiftDegrees: reading(-3.4),
          contrastStops: reading(0.05),
          asShotRatio: 1.3,
        } as never,
      ]}
    />,
  );
  const row = screen.getByRole('row', { name: /^red/ });
  expect(row.textContent).toContain('1.12');
  expect(row.textContent).toMatch(/−3\.4|−3/);
});
