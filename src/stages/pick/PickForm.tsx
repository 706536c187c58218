import { useController, type Control, type FieldPathByValue } from 'react-hook-form';
import { PICK_SCHOOLS, type PickSchool } from '@/core/judging/pick/pick';
import { ROUGH_LIGHT } from '@/core/judging/pick/roughLight';
import type { PickKit, PickRig } from '@/server/pickList';
import { Checkbox } from '@/ui/controls/Checkbox';
import { Labelled, NumberInput, TextInput } from '@/ui/controls/fields';
import { sameWords, Select, type Option } from '@/ui/controls/Select';
import { Choice } from '@/ui/controls/Toggle';
import type { Answer, Asked } from './asked';

/** Fields that a thumb hits in the sun. */
const TALL = 'w-full !min-h-11 !px-3 text-head';
const TARGETS = (['clips', 'hyperlapse', 'long exposure'] as const).map((one) => ({ value: one, words: one }));
const SCHOOLS: readonly Option<PickSchool>[] = PICK_SCHOOLS.map(({ school, name }) => [school, name]);
const ROUGH: readonly Option<string>[] = [['', 'by the meter'], ...sameWords(ROUGH_LIGHT.map((one) => one.words))];

/** What is asked: kit, light, what for, what the camera shall be set to. */
export function PickForm({
  control,
  asked,
  answer: { problem, rough, fixed },
  kits,
  rigs,
  kit,
}: {
  control: Control<Asked>;
  asked: Asked;
  answer: Answer;
  kits: readonly PickKit[];
  rigs: readonly PickRig[];
  kit: PickKit;
}) {
  const light = useController({ control, name: 'light' }).field;
  const target = useController({ control, name: 'target' }).field;
  const stack = useController({ control, name: 'stack' }).field;
  return (
    <div className="grid gap-3 mt-3">
      <TallSelect
        control={control}
        name="kit"
        label="Kit in hand"
        options={kits.map((one) => [
          one.id,
          `${one.name} ${one.measured > 0 ? `(${one.measured} measured)` : '(by its labels)'}`,
        ])}
      />
      {kit.stale && (
        <p className="border-l-4 border-warning pl-3 text-body">
          Some of its figures are from before a change of their session, or by an older version: measure it again when
          you can.
        </p>
      )}
      <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-3">
        <Labelled words="The bare meter says">
          <TextInput
            className={TALL}
            invalid={problem !== null && rough === null}
            disabled={rough !== null}
            {...light}
          />
        </Labelled>
        <TallSelect control={control} name="rough" label="or, roughly" options={ROUGH} />
      </div>
      {rough !== null && (
        <p className="text-label text-ink-3">
          EV {rough} at ISO 100, a rough start: good to a stop or so. Meter before it matters.
        </p>
      )}
      {problem && (
        <p role="alert" className="text-failure">
          {problem}
        </p>
      )}
      <div>
        <p className="text-small text-ink-3 mb-1" aria-hidden>
          For
        </p>
        <Choice
          label="For"
          className="grid grid-cols-3 gap-2"
          entryClass="h-11 border border-ink-4 text-body"
          value={target.value}
          entries={TARGETS}
          onChange={target.onChange}
        />
      </div>
      <div className="grid grid-cols-2 gap-3">
        {asked.target === 'clips' && <Amount control={control} name="frameRate" label="Frames a second" />}
        {asked.target === 'hyperlapse' && <Amount control={control} name="interval" label="Seconds between" />}
        {asked.target === 'long exposure' ? (
          <Amount control={control} name="seconds" label="Seconds open" />
        ) : (
          <Amount control={control} name="angle" label="Shutter angle, degrees" />
        )}
        <Amount control={control} name="iso" label="ISO" />
        {fixed !== null ? (
          <p className="text-label text-ink-3 self-end pb-3">f/{fixed}, fixed</p>
        ) : (
          <Amount control={control} name="fNumber" label="f-number" />
        )}
      </div>
      {rigs.length > 0 && (
        <TallSelect
          control={control}
          name="rig"
          label="Rig"
          options={[...sameWords(rigs.map((one) => one.name)), ['', 'any camera']]}
        />
      )}
      <div className="grid gap-1">
        <TallSelect control={control} name="school" label="When it can’t be right" options={SCHOOLS} />
        <p className="text-label text-ink-3">{PICK_SCHOOLS.find((one) => one.school === asked.school)!.why}</p>
      </div>
      {asked.school === 'brightest' && (
        <Amount control={control} name="brightest" label="Stops that the brightest part lies too high" />
      )}
      <Checkbox className="min-h-11 text-lead" checked={stack.value} onChange={stack.onChange}>
        Two filters on each other are allowed
      </Checkbox>
    </div>
  );
}

function TallSelect<T extends string>({
  control,
  name,
  label,
  options,
}: {
  control: Control<Asked>;
  name: FieldPathByValue<Asked, T>;
  label: string;
  options: readonly Option<T>[];
}) {
  const { field } = useController({ control, name });
  return (
    <Labelled words={label}>
      <Select className={TALL} value={field.value as T} options={options} onChange={field.onChange} />
    </Labelled>
  );
}

function Amount({
  control,
  name,
  label,
}: {
  control: Control<Asked>;
  name: FieldPathByValue<Asked, number>;
  label: string;
}) {
  const { field } = useController({ control, name });
  return (
    <Labelled words={label}>
      <NumberInput className={TALL} value={field.value as number} onChange={field.onChange} />
    </Labelled>
  );
}
