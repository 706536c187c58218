import { Trash2 } from 'lucide-react';
import { useController, type Control, type UseFormSetValue } from 'react-hook-form';
import { problemOf } from '@/core/judging/carry/needs';
import { PLACES } from '@/core/sitting/planning/knownPlaces';
import type { PickRig } from '@/server/pickList';
import { Checkbox } from '@/ui/controls/Checkbox';
import { Labelled, NumberInput, TextInput } from '@/ui/controls/fields';
import { sameWords, Select, type Option } from '@/ui/controls/Select';
import { Choice, Several } from '@/ui/controls/Toggle';
import { IconButton } from '@/ui/controls/Tooltip';
import { workOf, type AskedWork, type CarryAsked } from '@/core/judging/carry/asked';
import { ofRig } from './asked';
import { MONTHS } from './words';
import { SKY_WORDS } from './words';
import { SKIES } from '@/core/judging/carry/daylight';

const TARGETS = (['clips', 'hyperlapse', 'long exposure'] as const).map((one) => ({ value: one, words: one }));
const MONTH_ENTRIES = MONTHS.map((words, i) => ({ value: String(i + 1), words }));
const SKY_ENTRIES = SKIES.map((value) => ({ value, words: SKY_WORDS[value] }));
const PLACE_OPTIONS: readonly Option<string>[] = PLACES.map(({ name }) => [name, name]);
/** Keys of a work that are one number. */
type Amount = { [K in keyof AskedWork]: AskedWork[K] extends number ? K : never }[keyof AskedWork];

/** A kind of work as it is typed: camera, what for, where and when. */
export function WorkCard({
  control,
  setValue,
  index,
  work,
  rigs,
  onRemove,
}: {
  control: Control<CarryAsked>;
  setValue: UseFormSetValue<CarryAsked>;
  index: number;
  work: AskedWork;
  rigs: readonly PickRig[];
  /** Absent for the only one. */
  onRemove?: () => void;
}) {
  const problem = problemOf(workOf(work));
  const change = (part: Partial<AskedWork>) => setValue(`works.${index}`, { ...work, ...part });
  const amount = (key: Amount, label: string, min = 0) => (
    <Labelled words={label}>
      <NumberInput className="w-full px-2" min={min} value={work[key]} onChange={(value) => change({ [key]: value })} />
    </Labelled>
  );
  const name = useController({ control, name: `works.${index}.name` }).field;
  return (
    <fieldset className="bg-sheet rounded-sheet p-3 grid gap-3 min-w-0">
      <legend className="sr-only">Work: {work.name}</legend>
      <div className="flex items-end gap-2">
        <Labelled words="Kind of work" className="grow">
          <TextInput className="w-full font-strong" maxLength={80} {...name} />
        </Labelled>
        {onRemove && (
          <IconButton label={`Remove ${work.name}`} onClick={onRemove}>
            <Trash2 size={16} aria-hidden />
          </IconButton>
        )}
      </div>
      <Choice
        label="What is shot"
        className="grid grid-cols-3 gap-1"
        entryClass="border border-ink-4"
        value={work.target}
        entries={TARGETS}
        onChange={(target) => change({ target })}
      />
      <div className="grid grid-cols-2 gap-x-3 gap-y-2">
        {work.target === 'clips' && amount('frameRate', 'Frames a second')}
        {work.target === 'hyperlapse' && amount('interval', 'Seconds between pictures')}
        {work.target === 'long exposure' ? amount('seconds', 'Seconds open') : amount('angle', 'Shutter angle, °')}
        {amount('tolerance', 'Shutter may be off by, stops')}
      </div>
      {rigs.length > 0 && (
        <Labelled words="Rig">
          <Select
            className="w-full"
            value={work.rig}
            options={[['', 'as typed below'], ...sameWords(rigs.map((one) => one.name))]}
            onChange={(chosen) => {
              const rig = rigs.find((one) => one.name === chosen);
              change({ rig: chosen, ...(rig ? ofRig(rig, work.target) : {}) });
            }}
          />
        </Labelled>
      )}
      <div className="grid grid-cols-4 gap-x-3 gap-y-2">
        {amount('baseIso', 'ISO from')}
        {amount('highestIso', 'to')}
        {amount('widest', 'f/ from')}
        {amount('narrowest', 'to')}
      </div>
      <div className="grid grid-cols-4 gap-x-3 gap-y-2">
        {amount('latitude', '° north', -90)}
        {amount('longitude', '° east', -180)}
        {amount('fromHour', 'From, h')}
        {amount('toHour', 'to, h')}
      </div>
      <Select
        label="A place of the list"
        placeholder="or a place of the list"
        className="w-full"
        value={null}
        options={PLACE_OPTIONS}
        onChange={(chosen) => {
          const place = PLACES.find((one) => one.name === chosen)!;
          change({ latitude: place.latitude, ...(place.longitude === null ? {} : { longitude: place.longitude }) });
        }}
      />
      <Several
        label="Months"
        className="grid grid-cols-6 gap-1"
        entryClass="!px-0 border border-ink-4"
        values={work.months}
        entries={MONTH_ENTRIES}
        onChange={(months) => change({ months })}
      />
      <Several
        label="Skies"
        className="grid grid-cols-4 gap-1"
        entryClass="!px-0 border border-ink-4"
        values={work.skies}
        entries={SKY_ENTRIES}
        onChange={(skies) => change({ skies })}
      />
      <Checkbox checked={work.polarizer} onChange={(polarizer) => change({ polarizer })}>
        Reflections are to be cut: polarizing filters only
      </Checkbox>
      {problem && (
        <p role="alert" className="text-failure">
          {problem}
        </p>
      )}
    </fieldset>
  );
}
