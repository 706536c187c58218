import { Plus, X } from 'lucide-react';
import { useFieldArray, useWatch, type Control } from 'react-hook-form';
import type { Response } from '@/core/session/schema';
import type { KeptRig } from '@/core/sitting/kits/keptRig';
import { promiseInWords } from '@/core/words/cameraCheck';
import { Link } from '@/ui/Link';
import { Button } from '@/ui/Button';
import { FormSelect, FormText } from '@/ui/controls/form';
import { IconButton } from '@/ui/controls/Tooltip';
import { LINE, type RigForm } from './RigCamera';

const RESPONSES: readonly (readonly [Response['kind'], string])[] = [
  ['file', 'from the file'],
  ['srgb', 'sRGB'],
  ['bt709', 'BT.709'],
  ['hlg', 'HLG'],
  ['pq', 'PQ'],
  ['linear', 'linear'],
  ['bracket', 'recovered from a bare bracket'],
];
/** What is said of a curve that needs no check. */
const UNCHECKED: Partial<Record<Response['kind'], string>> = {
  hlg: 'Its curve is published.',
  pq: 'Its curve is published.',
  linear: 'Its codes are light.',
  curve: 'Its curve is a table.',
  bracket: 'Recovered at each sitting.',
};
const BITS = [8, 10, 12, 14, 16].map((bits) => [bits, String(bits)] as const);

/** How the camera's codes become light, a line a profile. */
export function RigProfiles({ id, control }: { id: string; control: Control<RigForm> }) {
  const { fields, append, remove } = useFieldArray({ control, name: 'profiles' });
  return (
    <section aria-label="Profiles" className="mt-5">
      <h2>Profiles</h2>
      <p className="text-ink-2 mt-1">How the camera’s codes become light; the first is what a plan reckons with.</p>
      {fields.map((field, i) => (
        <Profile key={field.id} rig={id} control={control} i={i} onRemove={() => remove(i)} />
      ))}
      <Button
        look="quiet"
        className="mt-2 -ml-3"
        onClick={() => append({ name: `Profile ${fields.length + 1}`, response: { kind: 'file' }, bitDepth: 10 })}
      >
        <Plus size={16} aria-hidden /> Add a profile
      </Button>
    </section>
  );
}

function Profile({
  rig,
  control,
  i,
  onRemove,
}: {
  rig: string;
  control: Control<RigForm>;
  i: number;
  onRemove: () => void;
}) {
  const name = useWatch({ control, name: `profiles.${i}.name` });
  // The form widens tuples to lists; the profile is what the schema made of it.
  const { response, check } = useWatch({ control, name: `profiles.${i}` }) as KeptRig['profiles'][number];
  return (
    <div role="group" aria-label={`Profile ${i + 1}`} className={LINE}>
      <FormText control={control} name={`profiles.${i}.name`} label="Profile" />
      <FormSelect
        control={control}
        name={`profiles.${i}.response.kind`}
        label="Response"
        width="w-[230px]"
        options={RESPONSES}
      />
      <FormSelect control={control} name={`profiles.${i}.bitDepth`} label="Bits" width="w-[70px]" options={BITS} />

      <p className="text-small text-ink-2 pb-2">
        {check
          ? `${promiseInWords(check)} (${check.checkedAt.slice(0, 10)}).`
          : (UNCHECKED[response.kind] ?? 'Not checked.')}{' '}
        <Link href={`/rigs/${rig}/check?profile=${i}`} className="underline">
          {check ? 'Look at the check' : 'Check the camera'}
        </Link>
      </p>
      <IconButton label={`Remove ${name}`} words="Remove" className="mb-0.5" onClick={onRemove}>
        <X size={16} aria-hidden />
      </IconButton>
    </div>
  );
}
