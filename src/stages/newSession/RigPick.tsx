'use client';

import { refusedFor, type RigChoice } from '@/core/sitting/kits/rigChoice';
import type { PictureFacts } from '@/core/reading/facts';
import { needsDarkBares } from '@/core/light/camera/trust';
import type { Session } from '@/core/session/schema';
import { handedOn } from '@/core/sitting/kits/keptRig';
import { rigAction } from '@/server/shelfActions';
import { Select } from '@/ui/controls/Select';

const keyOf = ({ rig, profile }: RigChoice) => `${rig}/${profile}`;

/** Which rig and profile the pictures were shot with; nothing where none is kept. */
export function RigPick({
  rigs,
  chosen,
  files,
  onChoose,
}: {
  rigs: readonly RigChoice[];
  chosen: RigChoice | null;
  files: readonly PictureFacts[];
  onChoose: (choice: RigChoice | null) => void;
}) {
  if (rigs.length === 0) return null;
  return (
    <div className="flex items-center gap-2 flex-wrap mt-3">
      <span className="text-ink-2" aria-hidden>
        Shot with
      </span>
      <Select
        label="Shot with"
        className="min-w-[220px]"
        value={chosen ? keyOf(chosen) : ''}
        options={[
          ['', 'a rig that isn’t kept'],
          ...rigs.map((one) => [keyOf(one), `${one.camera || 'A rig'} · ${one.name}`] as const),
        ]}
        onChange={(key) => onChoose(rigs.find((one) => keyOf(one) === key) ?? null)}
      />
      {chosen && <span className="text-ink-2 text-small">{sentence(chosen, files)}</span>}
    </div>
  );
}

function sentence(choice: RigChoice, files: readonly PictureFacts[]): string {
  if (!choice.check)
    return needsDarkBares(choice.response)
      ? 'Not checked: two darker bare pictures, or a camera check, make the ± smaller.'
      : '';
  const day = choice.check.checkedAt.slice(0, 10);
  const refused = refusedFor(choice, files);
  return refused.length > 0
    ? `Its check of ${day} won’t be used: it was made with another ${refused.join(', ')}.`
    : `Its check of ${day} goes along.`;
}

/** What a session gets of a chosen rig beside the response, which is chosen by itself: its camera, its check whole, its marks. */
export async function rigOfChoice({ rig, profile, camera }: RigChoice): Promise<Partial<Session['rig']>> {
  const own = (await rigAction(rig))?.profiles[profile];
  const { response: _chosen, ...rest } = own ? handedOn(own) : {};
  return { ...(camera ? { camera } : {}), ...rest };
}
