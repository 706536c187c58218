import type { Patch } from '@/core/session/schema';
import { Labelled, TextInput } from '@/ui/controls/fields';
import { Select, type Option } from '@/ui/controls/Select';
import { patchName } from '@/ui/format';
import { PatchStatistics, useStatistics } from './PatchStatistics';

type Role = Patch['role'];

/** What each role measures, in the order they are offered. */
const ROLES: readonly Option<Role>[] = [
  ['neutral', 'neutral: strength and cast'],
  ['edge', 'edge: sharpness'],
  ['field', 'field: shading'],
  ['black', 'black: flare'],
  ['color', 'color'],
  ['glare', 'glare'],
  ['reference', 'reference beside glare'],
  ['sky', 'sky'],
  ['frame', 'frame: the whole picture'],
];

/** Where a good patch of a role lies. */
const ADVICE: Partial<Record<Role, string>> = {
  glare: 'On the reflection itself, where it is brightest but not clipped. Bare must show it too.',
  reference:
    'Beside the glare or below the sky, in the same light: matt, even, not wet, not leaves, and no mirror of the sky. What happens there is taken for the filter’s plain strength.',
  sky: 'Even, clear sky with no cloud; two or three at different angles to the sun, and the one that darkens most speaks.',
  color: 'One surface of one color that fills the patch: leaves, paint, cloth.',
};

/** The chosen patch: what it measures, and what lies in it on the bare picture. */
export function PatchAtHand({
  sessionId,
  patch,
  file,
  onRole,
  onName,
}: {
  sessionId: string;
  patch: Patch;
  /** The bare picture. */
  file: string | undefined;
  onRole: (role: Role) => void;
  onName: (name: string) => void;
}) {
  const statistics = useStatistics(sessionId, file, patch.rect);
  return (
    <>
      <Labelled words="Name" className="mt-4">
        <TextInput
          className="w-full"
          maxLength={80}
          placeholder={patchName({ id: patch.id })}
          value={patch.name ?? ''}
          onChange={({ target }) => onName(target.value)}
        />
      </Labelled>
      <div className="flex items-center gap-2 mt-3">
        <span className="text-ink-2" aria-hidden>
          measures
        </span>
        <Select
          className="flex-1"
          label={`What ${patchName(patch)} measures`}
          value={patch.role}
          options={ROLES}
          onChange={onRole}
        />
      </div>
      {ADVICE[patch.role] && <p className="text-small text-ink-3 mt-2">{ADVICE[patch.role]}</p>}
      <PatchStatistics statistics={statistics} role={patch.role} />
    </>
  );
}
