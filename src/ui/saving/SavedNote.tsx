import type { SaveStatus } from './SaveQueue';

const WORDS: Readonly<Record<SaveStatus['state'], string>> = {
  kept: 'Saved',
  changed: 'Not saved yet',
  keeping: 'Saving …',
};

/** Whether what was changed is kept, and why not. */
export function SavedNote({ state, problem, className = '' }: SaveStatus & { className?: string }) {
  if (problem)
    return (
      <p role="alert" className={`text-failure max-w-[60ch] ${className}`}>
        {problem}
      </p>
    );
  return (
    <p role="status" className={`text-ink-3 ${className}`}>
      {WORDS[state]}
    </p>
  );
}
