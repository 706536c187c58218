import { Plus, X } from 'lucide-react';
import { useFieldArray, useWatch, type Control } from 'react-hook-form';
import type { KeptLens } from '@/core/sitting/kits/keptRig';
import { Button } from '@/ui/Button';
import { FormCheckbox, FormMaybeNumber, FormNumber, FormSelect, FormText } from '@/ui/controls/form';
import { IconButton } from '@/ui/controls/Tooltip';
import { LINE, type RigForm } from './RigCamera';

const APERTURES: readonly (readonly [KeptLens['aperture'], string])[] = [
  ['variable', 'variable'],
  ['fixed', 'fixed'],
];

/** The rig's lenses, a line each; one stays always. */
export function RigLenses({ control }: { control: Control<RigForm> }) {
  const { fields, append, remove } = useFieldArray({ control, name: 'lenses' });
  return (
    <section aria-label="Lenses" className="mt-7">
      <h2>Lenses</h2>
      {fields.map((field, i) => (
        <Lens key={field.id} control={control} i={i} onRemove={fields.length > 1 ? () => remove(i) : null} />
      ))}
      <Button
        look="quiet"
        className="mt-2 -ml-3"
        onClick={() =>
          append({ name: `Lens ${fields.length + 1}`, aperture: 'variable', widest: 2.8, fixedFocus: false })
        }
      >
        <Plus size={16} aria-hidden /> Add a lens
      </Button>
    </section>
  );
}

function Lens({ control, i, onRemove }: { control: Control<RigForm>; i: number; onRemove: (() => void) | null }) {
  const lens = useWatch({ control, name: `lenses.${i}` });
  const fixed = lens.aperture === 'fixed';
  return (
    <div role="group" aria-label={`Lens ${i + 1}`} className={`${LINE} border-b border-rule pb-3`}>
      <FormText control={control} name={`lenses.${i}.name`} label="Lens" />
      <FormSelect
        control={control}
        name={`lenses.${i}.aperture`}
        label="Aperture"
        width="w-[112px]"
        options={APERTURES}
      />
      <FormNumber control={control} name={`lenses.${i}.widest`} label={fixed ? 'f-number' : 'Widest f-number'} />
      {!fixed && (
        <FormMaybeNumber control={control} name={`lenses.${i}.narrowest`} label="Narrowest" width="w-[84px]" />
      )}
      <FormMaybeNumber control={control} name={`lenses.${i}.focalLengthMm`} label="Focal length, mm" />
      <FormMaybeNumber control={control} name={`lenses.${i}.fieldOfViewDegrees`} label="Field of view, °" />
      <FormCheckbox control={control} name={`lenses.${i}.fixedFocus`} label="fixed focus" className="pb-2" />
      {onRemove && (
        <IconButton label={`Remove ${lens.name}`} words="Remove" className="mb-0.5" onClick={onRemove}>
          <X size={16} aria-hidden />
        </IconButton>
      )}
    </div>
  );
}
