'use client';

import { useRef } from 'react';
import { parseCube1d } from '@/core/light/curveCube';
import { parseCurveCsv } from '@/core/light/curveCsv';
import type { Response } from '@/core/session/schema';
import { Button } from '@/ui/Button';
import { FilePicker, type Picking } from '@/ui/controls/FilePicker';
import { Select } from '@/ui/controls/Select';
import { sendFile } from '../intake/upload';

/** A response, with the files it needs (hash by path). */
export interface ChosenResponse {
  response: Response;
  files: Record<string, string>;
}

const PLAIN: readonly [string, string, Response][] = [
  ['file', 'from the files', { kind: 'file' }],
  ['srgb', 'sRGB', { kind: 'srgb' }],
  ['bt709', 'BT.709', { kind: 'bt709' }],
  ['linear', 'linear', { kind: 'linear' }],
  ['gamma', 'gamma 2.2', { kind: 'gamma', gamma: 2.2 }],
  ['hlg', 'HLG (BT.2100)', { kind: 'hlg' }],
  ['pq', 'PQ (BT.2100)', { kind: 'pq' }],
  ['bracket', 'recovered from a bare bracket', { kind: 'bracket' }],
];

/** Throws an Error with a sentence for a table that no response could be read from. */
function checkCurve(name: string, text: string): void {
  try {
    if (/\.cube$/i.test(name)) parseCube1d(text);
    else parseCurveCsv(text);
  } catch (error) {
    throw new Error(`${name} can’t be used: ${(error as Error).message}.`);
  }
}

/** How code values map to light: chosen, recovered, or a table loaded from a file. */
export function ResponseChoice({
  chosen,
  onChange,
  onProblem,
}: {
  chosen: ChosenResponse;
  onChange: (chosen: ChosenResponse) => void;
  onProblem: (sentence: string | null) => void;
}) {
  const picker = useRef<Picking>(null);
  const { response } = chosen;
  const curve = response.kind === 'curve' ? response.file : undefined;

  async function load(file: File) {
    onProblem(null);
    try {
      checkCurve(file.name, await file.text());
      const stored = await sendFile(file.name, file);
      onChange({ response: { kind: 'curve', file: file.name }, files: { [file.name]: stored.sha256 } });
    } catch (error) {
      onProblem((error as Error).message);
    }
  }

  return (
    <div className="flex items-center gap-2 flex-wrap">
      <span className="text-ink-2" aria-hidden>
        Camera response
      </span>
      <Select
        label="Camera response"
        className="min-w-[180px]"
        value={curve === undefined ? response.kind : 'curve'}
        options={[
          ...PLAIN.map(([key, words]) => [key, words] as const),
          ['curve', curve === undefined ? 'a curve from a file …' : `the curve ${curve}`],
        ]}
        onChange={(chosen) => {
          const plain = PLAIN.find(([key]) => key === chosen);
          if (plain) onChange({ response: plain[2], files: {} });
          else picker.current?.open();
        }}
      />
      <Button look="quiet" onClick={() => picker.current?.open()}>
        Load a curve
      </Button>
      <FilePicker
        picking={picker}
        accept=".cube,.csv,.tsv,.txt"
        label="Curve, 1-D .cube or CSV"
        onFiles={([file]) => void load(file)}
      />
    </div>
  );
}
