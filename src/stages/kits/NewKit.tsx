import { Plus } from 'lucide-react';
import { useForm, useWatch } from 'react-hook-form';
import { filtersOfShorthand } from '@/core/sitting/kits/keptKit';
import { keepKitAction, type Kept } from '@/server/shelfActions';
import { Button } from '@/ui/Button';
import { Labelled, TextInput } from '@/ui/controls/fields';
import { KitPreview } from '../newSession/KitPreview';

/** A kit of a name and its filters in shorthand. */
export function NewKit({
  first,
  busy,
  onProblems,
  onKept,
}: {
  /** Whether it will be the first one. */
  first: boolean;
  busy: boolean;
  onProblems: (problems: string[]) => void;
  onKept: (work: Promise<Kept>) => void;
}) {
  const { control, register, handleSubmit } = useForm({ defaultValues: { name: '', shorthand: '' } });
  const shorthand = useWatch({ control, name: 'shorthand' });
  const make = handleSubmit(({ name, shorthand: text }) => {
    const { filters, problems } = filtersOfShorthand(text, []);
    if (problems.length > 0) onProblems(problems);
    else onKept(keepKitAction({ id: 'kit', name: name.trim() || 'New kit', filters }));
  });
  return (
    <form className="bg-sheet rounded-sheet p-[14px] mt-2 grid gap-2.5" onSubmit={(event) => void make(event)}>
      <div className="grid gap-2.5 sm:grid-cols-[1fr_1.4fr_auto] items-end">
        <Labelled words="Name">
          <TextInput placeholder="Foundry Set" {...register('name')} />
        </Labelled>
        <Labelled words="Filters in shorthand">
          <TextInput placeholder="ND4 8 16 32 64 CPL" {...register('shorthand')} />
        </Labelled>
        <Button look={first ? 'main' : 'plain'} type="submit" disabled={busy}>
          <Plus size={16} aria-hidden /> New kit
        </Button>
      </div>
      <KitPreview shorthand={shorthand} />
    </form>
  );
}
