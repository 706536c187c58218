import type { Control } from 'react-hook-form';
import { FormCheckbox, FormText } from '@/ui/controls/form';
import { KitPreview } from './KitPreview';
import { ResponseChoice, type ChosenResponse } from './ResponseChoice';

/** What is typed of a session. */
export interface DraftTexts {
  title: string;
  kitName: string;
  shorthand: string;
  apertureFixed: boolean;
}

/** Title, kit and response of the session that is being made. */
export function DraftForm({
  control,
  shorthand,
  response,
  onResponse,
  onProblem,
}: {
  control: Control<DraftTexts>;
  shorthand: string;
  response: ChosenResponse;
  onResponse: (response: ChosenResponse) => void;
  onProblem: (sentence: string | null) => void;
}) {
  return (
    <>
      <div className="grid gap-4 mt-5 md:grid-cols-[1fr_1fr_1.4fr]">
        <FormText control={control} name="title" label="Title" width="" placeholder="Bench, first sitting" />
        <FormText control={control} name="kitName" label="Name of the kit" width="" placeholder="Foundry Set" />
        <FormText
          control={control}
          name="shorthand"
          label="Kit in shorthand"
          width=""
          placeholder="ND4 8 16 32 64 CPL"
        />
      </div>
      <KitPreview shorthand={shorthand} />
      <div className="flex gap-5 mt-4 flex-wrap items-center">
        <ResponseChoice chosen={response} onChange={onResponse} onProblem={onProblem} />
        <FormCheckbox control={control} name="apertureFixed" label="The lens’s aperture is fixed" />
      </div>
    </>
  );
}
