import { useState } from 'react';
import type { RigChoice } from '@/core/sitting/kits/rigChoice';
import type { Response, Session } from '@/core/session/schema';
import type { SessionFields } from '@/server/details';
import { Labelled, Line, TextInput } from '@/ui/controls/fields';
import { Select, type Option } from '@/ui/controls/Select';
import { ResponseChoice } from '../newSession/ResponseChoice';
import { RigPick, rigOfChoice } from '../newSession/RigPick';

type Rig = Session['rig'];

const MARKS: readonly Option<'' | 'nominal' | 'exact'>[] = [
  ['', 'not known'],
  ['nominal', '1/60 means 1/64'],
  ['exact', '1/60 is 1/60'],
];
const APERTURES: readonly Option<Rig['aperture']>[] = [
  ['variable', 'can be set'],
  ['fixed', 'fixed'],
];
const SPACES: readonly Option<'srgb' | 'display-p3' | 'rec2020'>[] = [
  ['srgb', 'sRGB'],
  ['display-p3', 'Display P3'],
  ['rec2020', 'Rec. 2020'],
];

/** What the session was shot with, and how its codes become light. */
export function RigSection({
  fields,
  rigs,
  onChange,
}: {
  fields: SessionFields;
  rigs: readonly RigChoice[];
  onChange: (fields: SessionFields, files?: Record<string, string>) => void;
}) {
  const [problem, setProblem] = useState<string | null>(null);
  const rig = (fields.rig ?? {}) as Partial<Rig>;
  const set = (part: Partial<Rig>, files?: Record<string, string>) => {
    const next = Object.entries({ ...rig, ...part }).filter(([, value]) => value !== undefined && value !== '');
    onChange({ ...fields, rig: Object.fromEntries(next) }, files);
  };
  async function choose(choice: RigChoice | null) {
    setProblem(null);
    if (!choice) return;
    try {
      set({ ...(await rigOfChoice(choice)), response: choice.response });
    } catch {
      setProblem('The rig could not be read; try again.');
    }
  }
  const iso = rig.baseIso === undefined ? '' : String(rig.baseIso);
  const [isoText, setIso] = useState(iso);
  const isoIsBad = isoText.trim() !== '' && !(Number(isoText) > 0);
  const space = rig.colorSpace ?? 'srgb';
  return (
    <section aria-label="Camera">
      <h2>Camera</h2>
      <RigPick rigs={rigs} chosen={null} files={[]} onChoose={(choice) => void choose(choice)} />
      <div className="flex gap-3 flex-wrap items-end mt-3">
        <Labelled words="Camera">
          <TextInput
            className="w-[200px]"
            value={rig.camera ?? ''}
            onChange={({ target }) => set({ camera: target.value })}
          />
        </Labelled>
        <Labelled words="Lens">
          <TextInput
            className="w-[200px]"
            value={rig.lens ?? ''}
            onChange={({ target }) => set({ lens: target.value })}
          />
        </Labelled>
        <Labelled words="Aperture">
          <Select
            className="w-[120px]"
            value={rig.aperture ?? 'variable'}
            options={APERTURES}
            onChange={(aperture) => set({ aperture })}
          />
        </Labelled>
        <Labelled words="Shutter marks">
          <Select
            className="w-[160px]"
            value={rig.shutterMarks ?? ''}
            options={MARKS}
            onChange={(marks) => set({ shutterMarks: marks === '' ? undefined : marks })}
          />
        </Labelled>
        <Labelled words="Base ISO">
          <TextInput
            className="w-[80px] text-right"
            invalid={isoIsBad}
            value={isoText}
            onChange={({ target }) => {
              setIso(target.value);
              const value = Number(target.value);
              if (target.value.trim() === '') set({ baseIso: undefined });
              else if (value > 0) set({ baseIso: value });
            }}
          />
        </Labelled>
      </div>
      <div className="mt-3 flex gap-x-7 gap-y-3 flex-wrap items-center">
        <ResponseChoice
          chosen={{ response: (rig.response ?? { kind: 'file' }) as Response, files: {} }}
          onChange={({ response, files }) => set({ response }, files)}
          onProblem={setProblem}
        />
        <Line words="Colors of the pictures">
          {typeof space === 'string' ? (
            <Select
              className="w-[130px]"
              value={space}
              options={SPACES}
              onChange={(colorSpace) => set({ colorSpace })}
            />
          ) : (
            <span className="field text-ink-2">a matrix of its own</span>
          )}
        </Line>
      </div>
      {problem && (
        <p role="alert" className="text-failure mt-2">
          {problem}
        </p>
      )}
    </section>
  );
}
