/** What a measured session's pages show first, made while nothing else is to be done: who opens them doesn't wait. */
import { shownFirst } from '@/core/viewing/shownFirst';
import type { Readings } from '@/core/session/readings';
import { keptAverage, keptFrame } from '@/store/shownFrames';
import type { LoadedSession } from '@/store/sessions';
import { firstSession } from './queue';

/** Views beyond this are made when they are looked at. */
const MOST = 200;

/** Views that are still to be made, those of the session measured last first. */
export class ShownAhead {
  private waiting: (() => Promise<unknown>)[] = [];

  /** Enters what a session's verdict shows first. */
  add(loaded: Pick<LoadedSession, 'session' | 'files'>, readings: Readings): void {
    const fresh = shownFirst(loaded.session, readings).map((one) =>
      one.kind === 'frame'
        ? () => keptFrame(loaded, one.file, one.part)
        : () => keptAverage(loaded, one.file, one.seconds, 0),
    );
    this.waiting = [...fresh, ...this.waiting].slice(0, MOST);
  }

  /**
   * Makes the next one; `false` where there is none to make. One that can't be made is told where it is asked for. While somebody shoots, the next
   * picture is measured at once: nothing else is begun.
   */
  async makeOne(): Promise<boolean> {
    if (this.waiting.length === 0 || (await firstSession()) !== null) return false;
    await this.waiting.shift()!().catch(() => undefined);
    return true;
  }
}
