import type { ArrivedFile } from '@/core/sitting/intake/arrived';
import { Button } from '@/ui/Button';

/** More names than these are counted. */
const NAMED = 3;

/** Files that have arrived and belong to no session yet. */
export function WaitingFiles({
  files,
  onGoOn,
  onPutAway,
}: {
  files: readonly ArrivedFile[];
  onGoOn: () => void;
  onPutAway: () => void;
}) {
  const names = files.slice(0, NAMED).map((one) => one.path);
  return (
    <section
      aria-label="Files that wait"
      className="mt-5 rounded-sheet bg-sheet px-5 py-4 flex items-center justify-between gap-4 flex-wrap"
    >
      <div>
        <h2>
          {files.length} {files.length === 1 ? 'file waits' : 'files wait'} to be laid on a session
        </h2>
        <p className="text-ink-2 mt-0.5">
          {names.join(', ')}
          {files.length > NAMED && ` and ${files.length - NAMED} more`}
        </p>
      </div>
      <div className="flex gap-2">
        <Button look="main" onClick={onGoOn}>
          Go on with them
        </Button>
        <Button look="quiet" onClick={onPutAway}>
          Put them away
        </Button>
      </div>
    </section>
  );
}
