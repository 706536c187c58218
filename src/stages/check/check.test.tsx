/** @jest-environment jsdom */
/** The check's page: what is shot is ticked off, what is missing is said, a check is kept or told why not. */
import { fireEvent, screen, within } from '@testing-library/react';
import type { CameraCheck } from '@/core/session/cameraCheck';
import { NEW_RIG } from '@/core/sitting/kits/keptRig';
import { show } from '@/ui/testing/render';
import { CheckStage } from './CheckStage';
import type { CheckSeries } from './series';

let kept: unknown[][];
let answer: { ok: boolean; error?: string };
jest.mock('@/server/checkActions', () => ({
  keepCheckAction: (...asked: unknown[]) => (kept.push(asked), Promise.resolve(answer)),
  takeInCheckAction: (...asked: unknown[]) => (kept.push(asked), Promise.resolve(answer)),
  dropCheckAction: (...asked: unknown[]) => (kept.push(asked), Promise.resolve(answer)),
}));
jest.mock('@/server/sessionActions', () => ({ measureAction: jest.fn() }));
jest.mock('@/ui/charts/CurveChart', () => ({ CurveChart: ({ label }: { label: string }) => <div>{label}</div> }));

beforeEach(() => {
  kept = [];
  answer = { ok: true };
});

const CHECK = {
  format: 'aurora-glade-camera-check',
  version: 1,
  camera: 'Stand-in',
  checkedAt: '2026-05-14T09:00:00Z',
  pictures: 22,
  settings: { model: 'Styled' },
  isoSpeeds: [100],
  tells: [
    { stops: 1, u95: 0.008 },
    { stops: 5, u95: 0.0381 },
  ],
  curve: [0.1, 0.5, 0.9].map((code) => ({ code, light: [-3, -3, -3], u95: 0.01 })),
  noise: [{ stops: -1, code: 180, spread: 1.5 }],
  automaticTone: 0.0062,
  localTone: { value: 0.001, u95: 0.004 },
  marks: 'nominal',
  exposures: 0.0021,
  balance: 0.001,
  drift: -0.02,
  grain: 0.4,
} as unknown as CameraCheck;

const series = (change: Partial<CheckSeries> = {}): CheckSeries => ({
  session: 'S',
  job: null,
  check: CHECK,
  faults: [],
  measured: true,
  ...change,
});
const rig = { id: 'R', camera: 'Field camera', profiles: NEW_RIG.profiles };
const draw = (given: CheckSeries | null) => show(<CheckStage rig={rig} profile={0} series={given} />);

test('pictures are ticked off beside the camera', () => {
  draw(null);
  const guide = screen.getByRole('region', { name: 'What to shoot' });
  expect(within(guide).getByRole('status').textContent).toContain('0 of 22 shot');
  fireEvent.click(within(guide).getAllByRole('checkbox', { name: '1/125 s' })[0]);
  expect(within(guide).getByRole('status').textContent).toContain('1 of 22 shot');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Work out the check' }).disabled).toBe(true);
});

test('what a series told is read, and kept with the profile', async () => {
  draw(series());
  const figures = screen.getByRole('region', { name: 'The check' });
  expect(figures.textContent).toContain('Tells stops to ±0.039 over 5 stops');
  expect(figures.textContent).toContain('22 pictures of 2026-05-14, Styled, ISO 100.');
  expect(figures.textContent).toContain('none found, 0.006 stop a stop at most');
  expect(figures.textContent).toContain('the series’ exact powers');
  // What lies at the least that can be told is told as a bound.
  expect(figures.textContent).toContain('0.003 stop or better');
  expect(figures.textContent).toContain('goes together (0.40): processed');
  fireEvent.click(screen.getByRole('button', { name: 'Keep with the rig' }));
  await screen.findByRole('button', { name: 'Keep with the rig' });
  expect(kept).toEqual([['R', 0, 'S']]);
});

test('one that can’t be kept says why', async () => {
  answer = { ok: false, error: 'This rig was changed in another window.' };
  draw(series());
  fireEvent.click(screen.getByRole('button', { name: 'Keep with the rig' }));
  expect((await screen.findByRole('alert')).textContent).toContain('This rig was changed in another window.');
});

test('pictures that give none say so, with what their measuring told', () => {
  draw(series({ check: null, faults: [{ code: 'x', severity: 'warning', takes: [], message: 'Too dark.', remedy: 'More light.' }] })); // prettier-ignore
  expect(screen.getByRole('alert').textContent).toContain('These pictures give no check.');
  expect(screen.getByText('Too dark. More light.')).toBeTruthy();
});

test('a rig without a profile is sent to get one', () => {
  show(<CheckStage rig={{ ...rig, profiles: [] }} profile={0} series={null} />);
  expect(screen.getByRole('link', { name: 'Add one' }).getAttribute('href')).toBe('/rigs/R');
});
