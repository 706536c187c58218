/** Sentences on edges and on what made a filter's pictures soft. */
import type { Fault } from '../session/readings';
import { fault } from './faults';
import { percent } from './numbers';

/** Why an edge can't be used in a picture; `refused` are the edge measurement's own words. */
export type EdgeRefusal =
  | { reason: 'clipped' | 'dark'; share: number }
  | { reason: 'few codes'; codes: number }
  | { reason: 'refused'; words: string }
  | { reason: 'noisy'; contrastToNoise: number };

function refusalInWords(refusal: EdgeRefusal): string {
  switch (refusal.reason) {
    case 'clipped':
      return `${percent(refusal.share)} of it is clipped`;
    case 'dark':
      return `${percent(refusal.share)} of it is at code 0`;
    case 'few codes':
      return `only ${refusal.codes} codes lie between its dark and its bright side`;
    case 'refused':
      return refusal.words;
    case 'noisy':
      return `its contrast is only ${refusal.contrastToNoise.toFixed(1)} times the noise`;
  }
}

/** @param file the first picture in which the edge was refused, of so many of the take's pictures */
export function edgeRefused(
  take: string,
  patch: string,
  { file, refusal, count, of }: { file: string; refusal: EdgeRefusal; count: number; of: number },
): Fault {
  const what = of === 1 ? file : `${count} of ${of} pictures of ${take}`;
  const words = `${what}: the edge “${patch}” can’t be used, ${refusalInWords(refusal)}.`;
  return fault('edge-unusable', 'error', [take], words);
}

export function pictureShaken(take: string, file: string, loss: number): Fault {
  const words = `${file} is softer than the sharpest repeat of ${take} by ${percent(loss)}: shaken, or out of focus. Its edges are left out.`;
  return fault('soft-by-motion', 'warning', [take], words);
}

export function bareSofter(take: string, scene: string, loss: number): Fault {
  const words = `The bare take ${take} is softer than the other bare takes of “${scene}” by ${percent(loss)}: the focus or the camera moved while nothing was on the lens. The ± of sharpness covers it.`;
  return fault('focus-moved', 'warning', [take], words);
}

export function sharpnessWithheld(takes: readonly string[], patch: string, u95: number): Fault {
  const words = `Sharpness at “${patch}” would be uncertain by ${u95.toFixed(2)}; it is withheld.`;
  return fault('edge-unusable', 'error', takes, words);
}

/** What made a filter's pictures soft, or sharper than bare. */
export type Softness =
  | { cause: 'none' }
  | { cause: 'sharper than bare'; patches: string[] }
  | { cause: 'shake'; way: 'sideways' | 'up and down' }
  | { cause: 'untold' }
  | { cause: 'focus' | 'filter'; kept: { center: number; corner: number } };

/**
 * A sentence where the softness is worth one, a fault where it isn't the filter's.
 *
 * @param filter as people name it
 */
export function softnessInWords(
  softness: Softness,
  filter: string,
  takes: readonly string[],
): { sentence: string | null; faults: Fault[] } {
  const told = (code: 'focus-moved' | 'soft-by-motion', sentence: string) => ({
    sentence,
    faults: [fault(code, 'warning', takes, sentence)],
  });
  switch (softness.cause) {
    case 'none':
      return { sentence: null, faults: [] };
    case 'sharper than bare': {
      const names = softness.patches.map((one) => `“${one}”`).join(', ');
      return told(
        'focus-moved',
        `${filter}: sharper than bare at ${names}, which no filter does: the focus moved between the takes.`,
      );
    }
    case 'shake':
      return told('soft-by-motion', `${filter}: blurred ${softness.way} only, as by a shake, rarely by a filter.`);
    case 'untold':
      return {
        sentence: `A shift of focus between the takes would look the same; edges in center and corners tell them apart.`,
        faults: [],
      };
    case 'focus':
    case 'filter': {
      const { center, corner } = softness.kept;
      const both = `${center.toFixed(2)} in the center, ${corner.toFixed(2)} in the corners`;
      return softness.cause === 'focus'
        ? told(
            'focus-moved',
            `${filter}: it keeps ${both}. A filter blurs alike all over, so a shift of focus between the takes has a part in it.`,
          )
        : { sentence: `Center and corners are blurred alike, as by the filter itself (${both}).`, faults: [] };
    }
  }
}
