'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useState } from 'react';
import { clockIsOff, duration } from '@/core/sitting/intake/cameraClock';
import { DRAFT_SCENES, missingInDraft, sessionFromDraft, type DraftScene } from '@/core/sitting/intake/draft';
import { factsOf, isTelemetry, type ArrivedFile } from '@/core/sitting/intake/arrived';
import { guessScene, type NamedFilter } from '@/core/sitting/intake/names';
import { spotId } from '@/core/sitting/intake/spots';
import { parseKitShorthand } from '@/core/sitting/kits/shorthand';
import { responseAtHand } from '@/core/light/response';
import { POLARIZED_SCENES, polarizes } from '@/core/session/polarizing';
import { Button } from '@/ui/Button';
import { describeFacts } from '../intake/words';
import { LayBoard, type BoardGroup } from '../intake/LayBoard';
import { Questions, type Question } from '../intake/Questions';
import { createSession } from './createSession';
import { DraftTable, SCENE_NAMES } from './DraftTable';
import { DraftTile } from './DraftTile';
import { KitPreview } from './KitPreview';
import { ResponseChoice, type ChosenResponse } from './ResponseChoice';
import { spotOf, useDraft, type Entry } from './useDraft';

const SCENE_TITLES: Readonly<Record<DraftScene, string>> = {
  chart: 'Chart',
  flat: 'Even wall',
  flare: 'Lamp',
  screen: 'White screen',
  water: 'Reflections',
  sky: 'Clear sky',
};

/** Asks for what the files don't say, and shows on which filter and scene each of them lies. */
export function Draft({
  pictures,
  onMore,
  onLeaveOut,
}: {
  pictures: ArrivedFile[];
  onMore: () => void;
  onLeaveOut: (file: ArrivedFile) => void;
}) {
  const router = useRouter();
  const readable = pictures.filter((picture) => picture.stored.facts.readable);
  const telemetry = pictures.filter(isTelemetry);
  const damaged = pictures.filter((picture) => !picture.stored.facts.readable && !telemetry.includes(picture));
  const [title, setTitle] = useState('');
  const [kitName, setKitName] = useState('');
  const [shorthand, setShorthand] = useState(() => kitFromNames(readable.map((picture) => picture.path)));
  const [apertureFixed, setApertureFixed] = useState(() =>
    readable.every((picture) => factsOf(picture).exposure.fNumber === undefined),
  );
  const [response, setResponse] = useState<ChosenResponse>(() => ({
    response: readable.some((picture) => guessScene(picture.path).bracket) ? { kind: 'bracket' } : { kind: 'file' },
    files: {},
  }));
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const { filters } = useMemo(() => parseKitShorthand(shorthand), [shorthand]);
  const rows = useDraft(readable, pictures, filters, response.response);
  const draft = { title, kitName, shorthand, apertureFixed, response: response.response, pictures: rows.rows };
  const missing = missingInDraft(draft);
  const shown = responseAtHand(response.response);

  // Ctrl-Z takes back what was laid, but not what is being typed.
  const { undo } = rows;
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

  const lay = (path: string, spot: string): [string, Entry] => [path, { spot: spotOf(spot, filters) }];
  const labelOf = (id: string) => {
    const spot = spotOf(id, filters);
    if (!spot) return id;
    const name = spot.bracket ? 'bare, bracket' : nameOf(spot.filter);
    return spot.scene === 'chart' ? name : `${name}, ${SCENE_NAMES[spot.scene]}`;
  };
  const nameOf = (filter: string | null) =>
    filter === null ? 'bare' : (filters.find((one) => one.id === filter)?.name ?? filter);
  const questions = rows.rows.flatMap((row, i): Question[] => {
    const laid = rows.laying.files[i];
    if (row.filter !== undefined || filters.length === 0) return [];
    return [
      {
        file: readable[i],
        doubt: laid.doubt,
        facts: describeFacts(readable[i]),
        options: laid.candidates.map(({ place, reasons }) => ({ id: place, label: labelOf(place), reasons })),
      },
    ];
  });
  const groups = DRAFT_SCENES.flatMap((scene): BoardGroup[] => {
    const here = rows.rows.flatMap((row, i) => (row.scene === scene && row.filter !== undefined ? [{ row, i }] : []));
    if (here.length === 0) return [];
    const brackets = here.some(({ row }) => row.bracket);
    const spots = [
      ...[null, ...shotOn(scene, filters)].map((filter) => ({ scene, filter, bracket: false })),
      ...(brackets ? [{ scene, filter: null, bracket: true }] : []),
    ];
    return [
      {
        id: scene,
        title: SCENE_TITLES[scene],
        rows: spots.map((spot) => ({
          id: spotId(spot),
          label: spot.bracket ? 'bracket' : nameOf(spot.filter),
          missing: 'no file yet: drag one here',
          tiles: here
            .filter(({ row }) => row.filter === spot.filter && row.bracket === spot.bracket)
            .map(({ row, i }) => ({
              path: row.path,
              node: <DraftTile row={row} file={readable[i]} response={shown} />,
            })),
        })),
      },
    ];
  });

  async function create() {
    setBusy(true);
    setProblem(null);
    const used = [...readable, ...telemetry.filter((one) => rows.rows.some((row) => row.telemetry === one.path))];
    const pictureFiles = Object.fromEntries(used.map((picture) => [picture.path, picture.stored.sha256]));
    const files = { ...pictureFiles, ...response.files };
    try {
      router.push(`/sessions/${await createSession(sessionFromDraft(draft), files)}/regions`);
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
            {rows.rows.length} {rows.rows.length === 1 ? 'picture' : 'pictures'} to lay on their filters
          </h1>
          <p className="text-ink-2 text-[15px] mt-1">
            Type the kit as you would say it; names, exposures, times and the pictures themselves choose the filters.
          </p>
        </div>
        <div className="flex gap-2">
          <Button onClick={onMore}>Add pictures</Button>
          <Button look="main" disabled={missing.length > 0 || busy} onClick={create}>
            Create session
          </Button>
        </div>
      </div>
      <div className="grid gap-4 mt-5 md:grid-cols-[1fr_1fr_1.4fr]">
        <label className="grid gap-1">
          <span className="text-ink-3 text-[12px]">Title</span>
          <input
            className="field"
            value={title}
            placeholder="Bench, first sitting"
            onChange={(event) => setTitle(event.target.value)}
          />
        </label>
        <label className="grid gap-1">
          <span className="text-ink-3 text-[12px]">Name of the kit</span>
          <input
            className="field"
            value={kitName}
            placeholder="Foundry Set"
            onChange={(event) => setKitName(event.target.value)}
          />
        </label>
        <label className="grid gap-1">
          <span className="text-ink-3 text-[12px]">Kit in shorthand</span>
          <input
            className="field"
            value={shorthand}
            placeholder="ND4 8 16 32 64 CPL"
            spellCheck={false}
            onChange={(event) => setShorthand(event.target.value)}
          />
        </label>
      </div>
      <KitPreview shorthand={shorthand} />
      <div className="flex gap-5 mt-4 flex-wrap items-center">
        <ResponseChoice chosen={response} onChange={setResponse} onProblem={setProblem} />
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="accent-accent size-4"
            checked={apertureFixed}
            onChange={(event) => setApertureFixed(event.target.checked)}
          />
          The lens’s aperture is fixed
        </label>
      </div>
      {(missing.length > 0 || problem || damaged.length > 0 || clockIsOff(rows.laying)) && (
        <ul
          className="mt-4 bg-well border-l-[3px] border-warning rounded-r-md px-4 py-2.5 grid gap-1"
          aria-label="What is missing"
        >
          {missing.map((sentence) => (
            <li key={sentence}>{sentence}</li>
          ))}
          {damaged.map((picture) => (
            <li key={picture.path}>
              {picture.path} is left out: {picture.stored.facts.readable ? '' : picture.stored.facts.reason}
            </li>
          ))}
          {clockIsOff(rows.laying) && (
            <li>
              The camera’s clock is {duration(Math.abs(rows.laying.clockOffsetSeconds!))}{' '}
              {rows.laying.clockOffsetSeconds! > 0 ? 'ahead of' : 'behind'} the log’s; that is taken off.
            </li>
          )}
          {problem && (
            <li role="alert" className="text-failure">
              {problem}
            </li>
          )}
        </ul>
      )}
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
      <LayBoard groups={groups} onMove={(path, spot) => rows.changeAll(new Map([lay(path, spot)]))} />
      <h2 className="mt-8">Files and their settings</h2>
      <DraftTable
        draft={rows}
        files={readable}
        filters={filters}
        apertureFixed={apertureFixed}
        response={response.response}
        onLeaveOut={(path) => onLeaveOut(pictures.find((one) => one.path === path)!)}
      />
    </>
  );
}

/** Filters that are looked for on a scene: before polarized light only those that polarize. */
function shotOn(scene: DraftScene, filters: readonly NamedFilter[]): string[] {
  return filters.filter((filter) => !POLARIZED_SCENES.has(scene) || polarizes(filter)).map((filter) => filter.id);
}

/** The kit that the names themselves spell out, so that often nothing need be typed. */
function kitFromNames(paths: string[]): string {
  const words = new Set<string>();
  for (const path of paths)
    for (const word of path.replace(/^.*[/\\]/, '').split(/[\s_.,-]+/))
      if (/^(?:ND\d+(?:PL)?|CPL|PL|UV)$/i.test(word)) words.add(word.toUpperCase());
  const strength = (word: string) => Number(/\d+/.exec(word)?.[0] ?? Infinity);
  return [...words].sort((a, b) => strength(a) - strength(b)).join(' ');
}
