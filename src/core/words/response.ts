/** Sentences on how codes become light. */
import type { Fault } from '../session/readings';
import { fault } from './faults';

export function bracketUnusable(takes: readonly string[]): Fault {
  const why =
    takes.length === 0 ? 'The session has no bracket takes' : 'The bracket takes are too few or too much clipped';
  const words = `${why} to recover the response from; what the files say is used instead.`;
  return fault('response-unknown', 'warning', takes, words);
}

export function bracketMisfit(takes: readonly string[], residualStops: number): Fault {
  const words = `The bracket fits no single response: its pictures lie ${residualStops.toFixed(2)} stop off the curve found. Was one exposure wrong, or did the light change?`;
  return fault('response-misfit', 'warning', takes, words);
}

/** One surface comes out differently at different exposures. */
export function responseMisfit(takes: readonly string[], patch: string, misfit: number, span: number): Fault {
  const words = `“${patch}” comes out ${misfit.toFixed(2)} stop different over exposures ${span.toFixed(1)} stops apart: the chosen response doesn’t fit these files.`;
  return fault('response-misfit', 'warning', takes, words);
}
