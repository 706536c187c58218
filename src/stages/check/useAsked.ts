import { useState } from 'react';
import type { ActionResult } from '@/server/asked';
import { notAnswered } from '@/ui/saving/asked';

/** Asks, and shows what is wrong where it is refused. */
export function useAsked() {
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  async function ask(work: () => Promise<ActionResult>, then: () => void) {
    setBusy(true);
    const answer = await work().catch(notAnswered);
    setBusy(false);
    setProblem(answer.ok ? null : answer.error);
    if (answer.ok) then();
  }
  return { problem, busy, ask };
}
