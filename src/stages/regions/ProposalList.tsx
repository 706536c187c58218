import { CircleCheck, CircleDashed } from 'lucide-react';
import { Button } from '@/ui/Button';
import { edgeName } from '@/ui/format';
import type { ProposalState } from './useProposals';

/** What the program proposes, each with its reason; one key takes all. */
export function ProposalList({
  proposals,
  onTake,
  onTakeAll,
  onDrop,
}: {
  proposals: ProposalState;
  onTake: (id: string) => void;
  onTakeAll: () => void;
  onDrop: () => void;
}) {
  const { state, patches, missing } = proposals;
  if (state === 'looking')
    return (
      <p role="status" className="mt-3 text-ink-2">
        Looking for places on the bare picture …
      </p>
    );
  if (patches.length === 0 && missing.length === 0) return null;
  return (
    <section aria-label="Proposals" className="mt-3">
      {patches.length > 0 && (
        <>
          <ul className="grid gap-px max-h-[262px] overflow-y-auto p-0.5" tabIndex={0} aria-label="Proposed places">
            {patches.map((one) => (
              <li key={one.id}>
                <button
                  type="button"
                  onClick={() => onTake(one.id)}
                  aria-label={`Take ${edgeName(one.id)}: ${one.reason}`}
                  className="w-full text-left rounded-md px-2.5 py-1.5 hover:bg-raised"
                >
                  <span className="flex justify-between gap-2">
                    <span className="font-semibold">{edgeName(one.id)}</span>
                    <span className="text-ink-2 whitespace-nowrap flex items-center gap-1">
                      {one.quality === 'good' ? (
                        <CircleCheck size={14} aria-hidden />
                      ) : (
                        <CircleDashed size={14} aria-hidden />
                      )}
                      {one.quality}
                    </span>
                  </span>
                  <span className="block text-small text-ink-2">{one.reason}</span>
                </button>
              </li>
            ))}
          </ul>
          <div className="flex gap-2 mt-3">
            <Button look="main" onClick={onTakeAll}>
              Take {patches.length === 1 ? 'it' : `all ${patches.length}`} <kbd className="ml-1.5 font-normal">a</kbd>
            </Button>
            <Button look="quiet" onClick={onDrop}>
              None of them
            </Button>
          </div>
        </>
      )}
      {missing.map((sentence) => (
        <p key={sentence} className="text-small text-warning mt-2">
          {sentence}
        </p>
      ))}
    </section>
  );
}
