/** Camera checks for tests, of an estimate that stands for what pictures told. */
import { curveOfEstimate } from '../light/camera/check';
import type { ResponseEstimate } from '../light/camera/model';
import { cameraCheckSchema, type CameraCheck } from '../session/cameraCheck';

export function checkOf(estimate: ResponseEstimate, change: Partial<CameraCheck> = {}): CameraCheck {
  return cameraCheckSchema.parse({
    format: 'aurora-glade-camera-check',
    version: 1,
    checkedAt: '2026-05-14T09:00:00Z',
    pictures: 9,
    file: { transfer: '"srgb"', bitDepth: 8, lossy: true },
    isoSpeeds: [100],
    ...curveOfEstimate(estimate),
    automaticTone: 0.002,
    tells: [],
    range: [-1, -9],
    curve: [],
    noise: [],
    marks: 'alike',
    exposures: 0.002,
    balance: 0.001,
    drift: 0,
    ...change,
  });
}
