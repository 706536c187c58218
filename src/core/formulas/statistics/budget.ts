/**
 * Budgets of uncertainty (JCGM 100:2008, GUM): contributions combined by the law of propagation, effective degrees
 * of freedom by Welch–Satterthwaite (G.2b), expanded to 95 % coverage.
 */
import { propagate, type Covariance } from './covariance';
import { coverageFactor } from './distributions';
import type { BudgetLine, Reading } from '../../session/readings';

/** One contribution to a three-channel figure. */
export interface Contribution {
  source: BudgetSource;
  covariance: Covariance;
  /** Infinity where the size isn't estimated from a sample. */
  degreesOfFreedom: number;
}

export type BudgetSource =
  | 'noise'
  | 'repeats'
  | 'light drift'
  | 'marks'
  | 'rounding'
  | 'compression'
  | 'processing'
  | 'dark cut-off'
  | 'response'
  | 'registration'
  | 'own fall of light'
  | 'places disagree'
  | 'polarized light';

export interface ExpandedUncertainty {
  /** Combined standard uncertainty. */
  u: number;
  u95: number;
  degreesOfFreedom: number;
  lines: BudgetLine[];
}

/** Combines standard uncertainties with degrees of freedom each: GUM equations (10), (G.2b). */
export function combine(
  parts: readonly { source: string; u: number; degreesOfFreedom: number; channels?: number[] }[],
): ExpandedUncertainty {
  const variance = parts.reduce((sum, part) => sum + part.u * part.u, 0);
  const u = Math.sqrt(variance);
  const denominator = parts.reduce((sum, part) => sum + part.u ** 4 / part.degreesOfFreedom, 0);
  const degreesOfFreedom = denominator > 0 ? variance ** 2 / denominator : Infinity;
  const lines = parts
    .filter((part) => part.u > 0)
    .map((part) => ({
      source: part.source,
      u: part.u,
      share: variance > 0 ? (part.u * part.u) / variance : 0,
      degreesOfFreedom: Number.isFinite(part.degreesOfFreedom) ? part.degreesOfFreedom : null,
      ...(part.channels ? { channels: part.channels } : {}),
    }))
    .sort((a, b) => b.share - a.share);
  return { u, u95: coverageFactor(degreesOfFreedom) * u, degreesOfFreedom, lines };
}

/** Uncertainty of a figure that depends on the three channels' stops by this gradient. */
export function expand(contributions: readonly Contribution[], gradient: readonly number[]): ExpandedUncertainty {
  return combine(
    contributions.map(({ source, covariance, degreesOfFreedom }) => ({
      source,
      u: Math.sqrt(propagate(covariance, gradient)),
      degreesOfFreedom,
      channels: [0, 4, 8].map((i) => Math.sqrt(Math.max(0, covariance[i]))),
    })),
  );
}

/** A figure with its expanded uncertainty. */
export function reading(value: number, uncertainty: ExpandedUncertainty): Reading {
  return { value, u95: uncertainty.u95 };
}
