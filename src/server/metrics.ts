/** Numbers for whoever looks after the program, in the text format of Prometheus (version 0.0.4): asked for, never sent. */
import { collectDefaultMetrics, Gauge, Registry } from 'prom-client';
import { libraryCounts } from '@/store';

const registry = new Registry();
// Memory, processor time, waits of the event loop: of this process.
collectDefaultMetrics({ register: registry });

const gauge = <L extends string>(name: string, help: string, labelNames: L[] = []) =>
  new Gauge({ name: `glade_${name}`, help, labelNames, registers: [registry] });

const GAUGES = {
  sessions: gauge('sessions', 'Sessions that are not put away.'),
  files: gauge('media_files', 'Media that are kept.'),
  bytes: gauge('media_bytes', 'Bytes of all media.'),
  arrived: gauge('arrived_files', 'Files that wait to be laid on takes.'),
  jobs: gauge('jobs', 'Measurements by state.', ['state']),
  oldest: gauge('jobs_oldest_queued_seconds', 'How long the oldest waiting measurement waits.'),
  mean: gauge('measure_seconds_mean', 'Mean time from asking to figures, of measurements that ended well within the last hour; NaN without any.'), // prettier-ignore
  database: gauge('database_seconds', 'How long the database took for the shortest question.'),
};

/** @returns the numbers of now, and their content type */
export async function metricsText(): Promise<{ text: string; type: string }> {
  const counts = await libraryCounts();
  GAUGES.sessions.set(counts.sessions);
  GAUGES.files.set(counts.files);
  GAUGES.bytes.set(counts.bytes);
  GAUGES.arrived.set(counts.arrived);
  for (const [state, count] of Object.entries(counts.jobs)) GAUGES.jobs.set({ state }, count);
  GAUGES.oldest.set(counts.oldestQueuedSeconds);
  GAUGES.mean.set(counts.meanMeasureSeconds ?? NaN);
  GAUGES.database.set(counts.databaseSeconds);
  return { text: await registry.metrics(), type: registry.contentType };
}
