import type { Take } from '@/core/session/schema';
import { Button, buttonClass } from '@/ui/Button';
import { Select } from '@/ui/controls/Select';
import { patchName } from '@/ui/format';
import { Link } from '@/ui/Link';
import { SavedNote } from '@/ui/saving/SavedNote';
import { UndoButtons } from '@/ui/saving/UndoButtons';
import type { SessionView } from '@/ui/sessionView';
import { PatchAtHand } from './PatchAtHand';
import { ProposalList } from './ProposalList';
import { SceneOptics } from './SceneOptics';
import { useOptics } from './useOptics';
import type { usePatches } from './usePatches';
import type { ProposalState } from './useProposals';

/** What a kind of scene needs. */
const WHERE: Readonly<Record<string, string>> = {
  screen: 'The white screen, as much of it as every take shows.',
  water: 'The reflection (glare), and beside it something that doesn’t reflect (reference).',
  sky: 'Clear sky, and below it something matt in the same light (reference).',
};

/** The patches of the scene at hand: what is proposed, what is placed, what each measures. */
export function PatchPanel({
  view,
  placing,
  takes,
  bareFile,
  proposals,
  onTake,
  onAsk,
  onDrop,
}: {
  view: SessionView;
  placing: ReturnType<typeof usePatches>;
  takes: readonly Take[];
  /** The picture that is drawn on; none where it can't be read. */
  bareFile: string | undefined;
  proposals: ProposalState;
  onTake: (ids: readonly string[]) => void;
  onAsk: () => void;
  onDrop: () => void;
}) {
  const { here, active, selected, saved, undo } = placing;
  const scene = view.session.scenes.find((one) => one.id === placing.sceneId);
  const { opticsOf, change } = useOptics(view.id, placing.save);
  const proposed = proposals.patches.length > 0;
  const others = view.session.scenes.filter((one) => one.id !== placing.sceneId);
  return (
    <aside className="bg-sheet rounded-sheet p-[18px]" aria-label="Patches">
      <h1 className="!text-title">
        {proposed ? 'Places to measure, proposed' : here.length === 0 ? 'Draw the gray patch' : 'Where to measure'}
      </h1>
      <p className="text-ink-2 mt-1">
        {proposed
          ? 'Take them all, or those you like, and correct them by hand.'
          : (WHERE[scene?.kind ?? ''] ??
            'An even, neutral area that every take shows, lit like the rest, with no highlight at its edge.')}
      </p>
      <ProposalList
        proposals={proposals}
        onTake={(id) => onTake([id])}
        onTakeAll={() => onTake(proposals.patches.map((one) => one.id))}
        onDrop={onDrop}
      />
      {here.length > 0 && (
        <ul className="mt-3 grid gap-1 max-h-[176px] overflow-y-auto p-0.5" aria-label="Patches of this scene">
          {here.map((patch) => (
            <li key={patch.id}>
              <button
                type="button"
                aria-pressed={patch.id === selected}
                onClick={() => placing.select(patch.id)}
                className={`w-full flex justify-between gap-3 rounded-md px-2.5 py-1.5 ${patch.id === selected ? 'bg-raised text-accent font-semibold' : 'hover:bg-raised'}`}
              >
                <span className="truncate min-w-0">{patchName(patch)}</span>{' '}
                <span className="text-ink font-normal">{patch.role}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
      <div className="flex flex-wrap gap-2 mt-3 items-center">
        <Button onClick={placing.add} disabled={!bareFile}>
          Add a patch
        </Button>
        <Button look="quiet" onClick={placing.remove} disabled={!active}>
          Remove
        </Button>
        {!proposed && proposals.state !== 'looking' && (
          <Button look="quiet" onClick={onAsk} disabled={!bareFile}>
            Propose places
          </Button>
        )}
        <span className="ml-auto flex gap-1">
          <UndoButtons undo={undo} />
        </span>
      </div>
      {others.length > 0 && here.length > 0 && (
        <div className="flex items-center gap-2 mt-3">
          <span className="text-ink-2" aria-hidden>
            copy all to
          </span>
          <Select
            className="flex-1"
            label="Copy these patches to another scene"
            value=""
            options={[['', 'another scene …'], ...others.map(({ id }) => [id, id] as const)]}
            onChange={(to) => to !== '' && placing.copyTo(to)}
          />
        </div>
      )}
      {active && (
        <PatchAtHand
          key={active.id}
          sessionId={view.id}
          patch={active}
          file={bareFile}
          onRole={placing.changeRole}
          onName={placing.rename}
        />
      )}
      {scene && (
        <SceneOptics
          key={scene.id}
          scene={scene}
          takes={takes}
          optics={opticsOf(scene)}
          change={(part) => change(scene, part)}
        />
      )}
      <SavedNote {...saved} className="text-small mt-3" />
      {here.length > 0 && (
        <Link href={`/sessions/${view.id}/measure`} className={`${buttonClass(proposed ? 'plain' : 'main')} mt-3`}>
          Go on to Measure
        </Link>
      )}
    </aside>
  );
}
