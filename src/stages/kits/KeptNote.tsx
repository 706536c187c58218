/** Whether what was typed is kept. */
export function KeptNote({ state, problem }: { state: 'kept' | 'changed' | 'keeping'; problem: string | null }) {
  if (problem)
    return (
      <p role="alert" className="text-failure max-w-[60ch]">
        {problem}
      </p>
    );
  return (
    <p role="status" className="text-ink-3">
      {state === 'kept' ? 'All kept' : 'Keeping …'}
    </p>
  );
}
