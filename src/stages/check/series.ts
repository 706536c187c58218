import type { CameraCheck } from '@/core/session/cameraCheck';
import type { Fault } from '@/core/session/readings';
import type { MeasureJob } from '../measure/job';

/** A series of bare pictures on its way to a check. */
export interface CheckSeries {
  session: string;
  job: MeasureJob | null;
  check: CameraCheck | null;
  faults: readonly Fault[];
  measured: boolean;
}
