/** A measurement job as the interface sees it. */
export interface MeasureJob {
  id: number;
  state: 'queued' | 'running' | 'done' | 'failed' | 'cancelled';
  progress: { done: number; total: number; take: string | null };
  error: string | null;
  cancelRequested: boolean;
}
