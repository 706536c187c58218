'use client';

import { X } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { formatShutter } from '@/core/exposure';
import {
  DRAFT_SCENES,
  guessFilter,
  guessScene,
  missingInDraft,
  sessionFromDraft,
  type DraftPicture,
  type DraftScene,
} from '@/core/intake';
import { parseKitShorthand } from '@/core/labels';
import { responseAtHand } from '@/core/light';
import { Button } from '@/ui/Button';
import { ExposureFields, FilterSelect } from '../footage/TakeFields';
import { KitPreview } from './KitPreview';
import { ResponseChoice, type ChosenResponse } from './ResponseChoice';
import type { DroppedPicture } from './types';

const TELEMETRY = /\.srt$/i;
/** The name without its ending: telemetry bears the clip's. */
const stem = (path: string) => path.replace(/\.[^.]+$/, '').toLowerCase();

type Entry = Pick<DraftPicture, 'shutter' | 'iso' | 'fNumber' | 'scene' | 'bracket'> & { filter?: string | null };

const SCENE_NAMES: Record<DraftScene, string> = { chart: 'chart', flat: 'even wall', flare: 'lamp' };

/** The table that asks for what the files don't say. */
export function Draft({ pictures, onMore }: { pictures: DroppedPicture[]; onMore: () => void }) {
  const router = useRouter();
  const [leftOut, setLeftOut] = useState<ReadonlySet<string>>(new Set());
  const readable = pictures.filter((picture) => picture.stored.facts.readable && !leftOut.has(picture.path));
  const telemetry = pictures.filter((picture) => TELEMETRY.test(picture.path));
  const damaged = pictures.filter((picture) => !picture.stored.facts.readable && !telemetry.includes(picture));
  const beside = (path: string) => telemetry.find((one) => stem(one.path) === stem(path))?.path;
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
  const [entries, setEntries] = useState<Record<string, Partial<Entry>>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const { filters } = useMemo(() => parseKitShorthand(shorthand), [shorthand]);

  const rows: DraftPicture[] = readable.map((picture) => {
    const { exposure, capturedAt } = factsOf(picture);
    const entry = entries[picture.path] ?? {};
    const chosen = 'filter' in entry ? entry.filter : guessFilter(picture.path, filters);
    const guess = guessScene(picture.path);
    return {
      path: picture.path,
      scene: entry.scene ?? guess.scene,
      bracket: (entry.bracket ?? guess.bracket) && chosen === null,
      filter: chosen === null || filters.some((filter) => filter.id === chosen) ? chosen : undefined,
      shutter:
        entry.shutter ?? (exposure.shutterSeconds ? formatShutter(exposure.shutterSeconds).replace(' s', '') : ''),
      iso: entry.iso ?? (exposure.iso ? String(exposure.iso) : ''),
      fNumber: entry.fNumber ?? (exposure.fNumber ? String(exposure.fNumber) : ''),
      capturedAt,
      ...(beside(picture.path) === undefined ? {} : { telemetry: beside(picture.path) }),
    };
  });
  const draft = { title, kitName, shorthand, apertureFixed, response: response.response, pictures: rows };
  const missing = missingInDraft(draft);

  const change = (path: string, entry: Partial<Entry>) =>
    setEntries((now) => ({ ...now, [path]: { ...now[path], ...entry } }));
  /** Rows after this one that lack an exposure: those of its own filter first, else all below. */
  const emptyBelow = (index: number): { rows: DraftPicture[]; words: string } | null => {
    const { filter, shutter, iso } = rows[index];
    if (shutter === '' || iso === '') return null;
    const below = rows.slice(index + 1).filter((row) => row.shutter === '' || row.iso === '');
    const own = below.filter((row) => row.filter === filter);
    const name = filter === null ? 'bare' : filters.find((one) => one.id === filter)?.name;
    if (own.length > 0 && name) return { rows: own, words: `Same for all ${name}` };
    return below.length > 0 ? { rows: below, words: 'Same for all below' } : null;
  };
  const fill = (index: number, targets: DraftPicture[]) =>
    setEntries((now) => {
      const { shutter, iso, fNumber } = rows[index];
      const filled = { ...now };
      for (const row of targets)
        filled[row.path] = {
          ...filled[row.path],
          shutter: row.shutter || shutter,
          iso: row.iso || iso,
          fNumber: row.fNumber || fNumber,
        };
      return filled;
    });

  async function create() {
    setBusy(true);
    setProblem(null);
    const used = [...readable, ...telemetry.filter((one) => rows.some((row) => row.telemetry === one.path))];
    const pictureFiles = Object.fromEntries(used.map((picture) => [picture.path, picture.stored.sha256]));
    const files = { ...pictureFiles, ...response.files };
    try {
      const answer = await fetch('/api/sessions', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ document: sessionFromDraft(draft), files }),
      });
      const { id, error } = (await answer.json()) as { id?: string; error?: string };
      if (!id) throw new Error(error ?? 'The session could not be made.');
      router.push(`/sessions/${id}/regions`);
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
            {rows.length} {rows.length === 1 ? 'picture' : 'pictures'} to lay on their filters
          </h1>
          <p className="text-ink-2 text-[15px] mt-1">
            Type the kit as you would say it; names of files choose the filters.
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
      {(missing.length > 0 || problem || damaged.length > 0) && (
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
          {problem && (
            <li role="alert" className="text-failure">
              {problem}
            </li>
          )}
        </ul>
      )}
      <table className="w-full mt-5 border-collapse">
        <thead>
          <tr className="text-left text-ink-3 text-[12px] border-b border-[#5a5a5a]">
            <th className="font-medium py-1.5 pr-3 w-[84px]">Picture</th>
            <th className="font-medium pr-3">File</th>
            <th className="font-medium pr-3 w-[150px]">Filter</th>
            <th className="font-medium pr-3 w-[104px]">Shows</th>
            <th className="font-medium pr-3 w-[120px]">Shutter</th>
            <th className="font-medium pr-3 w-[92px]">ISO</th>
            <th className="font-medium pr-3 w-[86px]">{apertureFixed ? '' : 'f-number'}</th>
            <th className="w-[210px]" />
          </tr>
        </thead>
        <tbody>
          {rows.map((row, index) => {
            const picture = readable[index];
            const below = emptyBelow(index);
            return (
              <tr key={row.path} className="border-b border-[#484848]">
                <td className="py-1.5 pr-3">
                  <img
                    src={`/api/files/${picture.stored.sha256}?size=320&response=${encodeURIComponent(JSON.stringify(responseAtHand(response.response)))}`}
                    alt=""
                    width={72}
                    height={48}
                    loading="lazy"
                    className="w-[72px] h-[48px] object-cover rounded-sm bg-well"
                  />
                </td>
                <td className="pr-3">
                  <div className="break-all">{row.path}</div>
                  <div className="text-ink-3 text-[12px]">
                    {describeFacts(picture)}
                    {row.telemetry && `, exposure from ${row.telemetry}`}
                  </div>
                </td>
                <td className="pr-3">
                  <FilterSelect
                    label={`Filter of ${row.path}`}
                    value={row.filter}
                    filters={filters}
                    bracket={row.bracket}
                    onChange={(filter, bracket) => change(row.path, { filter, bracket })}
                  />
                </td>
                <td className="pr-3">
                  <select
                    aria-label={`What ${row.path} shows`}
                    className="field w-full"
                    value={row.scene}
                    onChange={(event) => change(row.path, { scene: event.target.value as DraftScene })}
                  >
                    {DRAFT_SCENES.map((scene) => (
                      <option key={scene} value={scene}>
                        {SCENE_NAMES[scene]}
                      </option>
                    ))}
                  </select>
                </td>
                <ExposureFields
                  label={row.path}
                  value={row}
                  withAperture={!apertureFixed}
                  onChange={(exposure) => change(row.path, exposure)}
                />
                <td className="text-right">
                  {below && (
                    <Button look="quiet" onClick={() => fill(index, below.rows)}>
                      {below.words}
                    </Button>
                  )}
                  <button
                    type="button"
                    aria-label={`Leave ${row.path} out`}
                    title="Leave out"
                    onClick={() => setLeftOut((now) => new Set(now).add(row.path))}
                    className="p-2 rounded-md text-ink-3 hover:text-ink hover:bg-sheet align-middle"
                  >
                    <X size={16} aria-hidden />
                  </button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </>
  );
}

function factsOf(picture: DroppedPicture) {
  const { facts } = picture.stored;
  if (!facts.readable) throw new Error('only readable pictures have facts');
  return facts.picture;
}

function describeFacts(picture: DroppedPicture): string {
  const { width, height, bitDepth, capturedAt, encoding, clip } = factsOf(picture);
  const time = capturedAt ? ` · ${capturedAt.slice(0, 19).replace('T', ' ')}` : '';
  if (clip)
    return `${width} × ${height}, ${clip.codec}, ${clip.seconds.toFixed(1)} s at ${clip.framesPerSecond.toFixed(2)} fps${time}`;
  return `${width} × ${height}, ${bitDepth} bit${encoding.profile ? `, ${encoding.profile}` : ''}${time}`;
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
