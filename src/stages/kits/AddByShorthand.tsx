import { Plus } from 'lucide-react';
import { useForm, useWatch } from 'react-hook-form';
import { useState } from 'react';
import { filtersOfShorthand, type KeptFilter } from '@/core/sitting/kits/keptKit';
import { Button } from '@/ui/Button';
import { Labelled, TextInput } from '@/ui/controls/fields';
import { KitPreview } from '../newSession/KitPreview';

/** More filters, typed as one would say them; what can't be read stays in the field and is told. */
export function AddByShorthand({
  used,
  onAdd,
}: {
  /** Ids that are taken. */
  used: readonly string[];
  onAdd: (filters: KeptFilter[]) => void;
}) {
  const { register, control, handleSubmit, reset } = useForm({ defaultValues: { shorthand: '' } });
  const [told, setTold] = useState<string[]>([]);
  const add = handleSubmit(({ shorthand }) => {
    const { filters, problems } = filtersOfShorthand(shorthand, used);
    setTold(problems);
    if (filters.length === 0) return;
    onAdd(filters);
    if (problems.length === 0) reset();
  });
  return (
    <>
      <form className="flex gap-2.5 items-end flex-wrap mt-4" onSubmit={(event) => void add(event)}>
        <Labelled words="More filters in shorthand">
          <TextInput
            className="w-[300px]"
            placeholder="0.9 1.8, VND 2-5, ND8/PL, unmarked"
            {...register('shorthand')}
          />
        </Labelled>
        <Button type="submit">
          <Plus size={16} aria-hidden /> Add them
        </Button>
      </form>
      <KitPreview shorthand={useWatch({ control, name: 'shorthand' })} />
      {told.length > 0 && (
        <ul role="alert" className="mt-2 text-failure">
          {told.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      )}
    </>
  );
}
