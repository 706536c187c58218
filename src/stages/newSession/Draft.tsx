'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { responseAtHand } from '@/core/light/response';
import { factsOf, isTelemetry, type ArrivedFile } from '@/core/sitting/intake/arrived';
import { missingInDraft, sessionFromDraft } from '@/core/sitting/intake/draft';
import { guessScene } from '@/core/sitting/intake/names';
import { needsDarkBares } from '@/core/light/camera/trust';
import { choiceByFiles, type RigChoice } from '@/core/sitting/kits/rigChoice';
import { parseKitShorthand } from '@/core/sitting/kits/shorthand';
import { Button } from '@/ui/Button';
import { LayBoard } from '../intake/LayBoard';
import { Questions } from '../intake/Questions';
import { createSession } from './createSession';
import { kitInNames } from '@/core/sitting/intake/filterWords';
import { DraftForm, type DraftTexts } from './DraftForm';
import { DraftProblems } from './DraftProblems';
import { DraftTable } from './DraftTable';
import { groupsOf, questionsOf } from './laid';
import type { ChosenResponse } from './ResponseChoice';
import { rigOfChoice, RigPick } from './RigPick';
import { spotOf, useDraft, type Entry } from './useDraft';

/** Asks for what the files don't say, and shows on which filter and scene each of them lies. */
export function Draft({
  pictures,
  rigs,
  onMore,
  onLeaveOut,
}: {
  pictures: ArrivedFile[];
  rigs: readonly RigChoice[];
  onMore: () => void;
  onLeaveOut: (file: ArrivedFile) => void;
}) {
  const router = useRouter();
  const readable = pictures.filter((picture) => picture.stored.facts.readable);
  const telemetry = pictures.filter(isTelemetry);
  const damaged = pictures.filter((picture) => !picture.stored.facts.readable && !telemetry.includes(picture));
  const { control } = useForm<DraftTexts>({
    defaultValues: {
      title: '',
      kitName: '',
      shorthand: kitInNames(readable.map((picture) => picture.path)),
      apertureFixed: readable.every((picture) => factsOf(picture).exposure.fNumber === undefined),
    },
  });
  const texts = useWatch({ control }) as DraftTexts;
  const [response, setResponse] = useState<ChosenResponse>(() => ({
    response: readable.some((picture) => guessScene(picture.path).bracket) ? { kind: 'bracket' } : { kind: 'file' },
    files: {},
  }));
  const [rig, setRig] = useState(() => choiceByFiles(rigs, readable.map(factsOf)));
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const { filters } = useMemo(() => parseKitShorthand(texts.shorthand), [texts.shorthand]);
  const rows = useDraft(readable, pictures, filters, response.response);
  const draft = { ...texts, response: response.response, pictures: rows.rows };
  const missing = missingInDraft(draft);
  const shown = responseAtHand(response.response);
  useUndoKey(rows.undo);

  const lay = (path: string, spot: string): [string, Entry] => [path, { spot: spotOf(spot, filters) }];
  const questions = questionsOf(rows, readable, filters);

  async function create() {
    setBusy(true);
    setProblem(null);
    const used = [...readable, ...telemetry.filter((one) => rows.rows.some((row) => row.telemetry === one.path))];
    const pictureFiles = Object.fromEntries(used.map((picture) => [picture.path, picture.stored.sha256]));
    const files = { ...pictureFiles, ...response.files };
    try {
      const document = sessionFromDraft({ ...draft, rig: rig ? await rigOfChoice(rig) : {} });
      router.push(`/sessions/${await createSession(document, files)}/regions`);
    } catch (error) {
      setProblem((error as Error).message);
      setBusy(false);
    }
  }

  return (
    <>
      <div className="flex justify-between items-start gap-4 flex-wrap">
        <div>
          <h1>
            Match {rows.rows.length} {rows.rows.length === 1 ? 'picture' : 'pictures'} to filters
          </h1>
          <p className="text-ink-2 text-lead mt-1">
            Type the kit as you would say it; names, exposures, times and the pictures themselves choose the filters.
          </p>
        </div>
        <div className="flex gap-2">
          <Button onClick={onMore}>Add pictures</Button>
          <Button look="main" disabled={missing.length > 0 || busy} onClick={() => void create()}>
            Create session
          </Button>
        </div>
      </div>
      <DraftForm
        control={control}
        shorthand={texts.shorthand}
        response={response}
        onResponse={setResponse}
        onProblem={setProblem}
      />
      <RigPick
        rigs={rigs}
        chosen={rig}
        files={readable.map(factsOf)}
        onChoose={(choice) => {
          setRig(choice);
          // A published profile is the response; of a standard curve the files tell which.
          if (choice && !needsDarkBares(choice.response)) setResponse({ response: choice.response, files: {} });
        }}
      />
      <DraftProblems missing={missing} damaged={damaged} laying={rows.laying} problem={problem} />
      <Questions
        questions={questions}
        response={shown}
        onChoose={(path, spot) => rows.changeAll(new Map([lay(path, spot)]))}
        onAll={() =>
          rows.changeAll(
            new Map(
              questions.flatMap(({ file, options }) => (options.length > 0 ? [lay(file.path, options[0].id)] : [])),
            ),
          )
        }
        onUndo={rows.undo}
        canUndo={rows.canUndo}
      />
      <LayBoard
        groups={groupsOf(rows.rows, readable, filters, shown)}
        onMove={(path, spot) => rows.changeAll(new Map([lay(path, spot)]))}
      />
      <h2 className="mt-8">Files and their settings</h2>
      <DraftTable
        draft={rows}
        files={readable}
        filters={filters}
        apertureFixed={texts.apertureFixed}
        response={response.response}
        onLeaveOut={(path) => onLeaveOut(pictures.find((one) => one.path === path)!)}
      />
    </>
  );
}

/** Ctrl-Z takes back what was laid, but not what is being typed. */
function useUndoKey(undo: () => void): void {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLInputElement;
      if ((event.ctrlKey || event.metaKey) && event.key === 'z' && !event.shiftKey && !typing) {
        event.preventDefault();
        undo();
      }
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  });
}
