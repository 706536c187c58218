/** A simulated sitting, take by take, as it would arrive: what is told after each. */
import { measureSession } from '../measure';
import { previewOf, type Preview } from '../laying/preview';
import type { PictureFacts } from '../reading/facts';
import type { PictureSource } from '../reading/source';
import { cutWindow, type Picture } from '../reading/window';
import type { Readings } from '../session/readings';
import { checkFootage } from '../sitting/checks/footageChecks';
import type { CheckedFile } from '../sitting/checks/check';
import { lookOf } from '../sitting/intake/look';
import { liveView, type LiveView } from '../sitting/live/live';
import { roughStrengths } from '../sitting/live/rough';
import { resolveResponse, responseAtHand } from '../light/response';
import { simulateSession } from '@/simulator/session';
import type { BenchPlan } from '@/simulator/truth';

const OPTIONS = { createdAt: '2026-05-14T12:00:00Z', generator: 'test' };

export interface LiveStep {
  /** The take that came last. */
  take: string;
  view: LiveView;
  readings: Readings;
}

/** Renders every picture once: after each take all that came before is looked at again. */
function renderedOnce(source: PictureSource): PictureSource {
  const rendered = new Map<string, Promise<{ facts: PictureFacts; whole: Picture; preview: Preview }>>();
  const render = async (file: string) => {
    const { facts, windows } = await source.open(file);
    const [whole] = await windows([{ x: 0, y: 0, width: facts.width, height: facts.height }]);
    return { facts, whole, preview: previewOf(whole) };
  };
  return {
    ...source,
    async open(file) {
      const one = rendered.get(file) ?? render(file);
      rendered.set(file, one);
      const { facts, whole, preview } = await one;
      return {
        facts,
        preview,
        windows: async (rects) => rects.map((rect) => cutWindow(whole, rect)),
        close: () => undefined,
      };
    },
  };
}

/**
 * Shoots a plan and looks after each take, or after those that `look` says. Exposures come from the files where these tell them, as a camera's do.
 */
export async function shootLive(
  plan: BenchPlan,
  { wanted = 0.05, look = () => true }: { wanted?: number; look?: (take: string, count: number) => boolean } = {},
): Promise<LiveStep[]> {
  const { session, source: plain } = simulateSession(plan);
  const source = renderedOnce(plain);
  const files = new Map<string, CheckedFile>();
  const { response } = session.rig;
  const decode = ({ encoding }: PictureFacts) =>
    resolveResponse(responseAtHand(response, encoding), encoding, () => '').decode;
  const steps: LiveStep[] = [];
  for (let count = 1; count <= session.takes.length; count++) {
    const take = session.takes[count - 1];
    for (const path of take.files) {
      const { facts, windows } = await source.open(path);
      const [whole] = await windows([{ x: 0, y: 0, width: facts.width, height: facts.height }]);
      if (facts.exposure.shutterSeconds !== undefined) take.exposure = {};
      if (facts.whiteBalance !== null) take.whiteBalance = undefined;
      files.set(path, { facts, look: lookOf(whole) });
    }
    if (!look(take.id, count)) continue;
    const sofar = { ...session, takes: session.takes.slice(0, count) };
    const readings = await measureSession(sofar, source, OPTIONS);
    const footage = { session: sofar, files, telemetry: new Map(), decode };
    const view = liveView(sofar, readings, checkFootage(footage), wanted, roughStrengths(footage));
    steps.push({ take: take.id, view, readings });
  }
  return steps;
}
