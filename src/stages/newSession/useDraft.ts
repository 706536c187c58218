import { useMemo, useState } from 'react';
import { formatShutter, parseShutter } from '@/core/formulas/optics/exposure';
import { exposureBeside, factsOf, telemetryBeside, toLay, type ArrivedFile } from '@/core/sitting/intake/arrived';
import { draftSpots, spotId, type DraftSpot } from '@/core/sitting/intake/spots';
import { layFiles } from '@/core/sitting/intake/layFiles';
import { readName, type NamedFilter } from '@/core/sitting/intake/names';
import type { DraftPicture } from '@/core/sitting/intake/draft';
import type { Laying } from '@/core/sitting/intake/laidFile';
import type { Response } from '@/core/session/schema';

/** What a person has said of a file. */
export type Entry = Partial<Pick<DraftPicture, 'shutter' | 'iso' | 'fNumber' | 'ringDegrees' | 'mark'>> & {
  spot?: DraftSpot;
};

export interface DraftRows {
  rows: DraftPicture[];
  laying: Laying;
  change: (path: string, entry: Entry) => void;
  changeAll: (changes: ReadonlyMap<string, Entry>) => void;
  undo: () => void;
  canUndo: boolean;
}

const numberOf = (text: string) => (text === '' ? undefined : Number(text));

/** The rows of a draft: laid by what is known, corrected by what was said; each change can be taken back. */
export function useDraft(
  readable: readonly ArrivedFile[],
  all: readonly ArrivedFile[],
  filters: readonly NamedFilter[],
  response: Response,
): DraftRows {
  const [history, setHistory] = useState<Record<string, Entry>[]>([{}]);
  const entries = history[history.length - 1];

  const typed = readable.map((file) => {
    const known = exposureBeside(file, all);
    const own = factsOf(file).exposure;
    const entry = entries[file.path] ?? {};
    return {
      file,
      known,
      shutter: entry.shutter ?? (own.shutterSeconds ? formatShutter(own.shutterSeconds).replace(' s', '') : ''),
      iso: entry.iso ?? (own.iso ? String(own.iso) : ''),
      fNumber: entry.fNumber ?? (own.fNumber ? String(own.fNumber) : ''),
    };
  });
  const files = typed.map(({ file, known, shutter, iso, fNumber }) =>
    toLay(
      file,
      {
        shutterSeconds: (shutter === '' ? null : parseShutter(shutter)) ?? known.shutterSeconds,
        iso: numberOf(iso) ?? known.iso,
        fNumber: numberOf(fNumber) ?? known.fNumber,
      },
      response,
    ),
  );
  const spots = useMemo(() => draftSpots(filters), [filters]);
  const key = JSON.stringify(files.map(({ path, exposureLog2, lightLog2 }) => [path, exposureLog2, lightLog2]));
  // Scoring looks at every file and every place: only when one of them has changed.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const laying = useMemo(() => layFiles(files, spots, filters), [key, spots, filters]);

  const rows = typed.map(({ file, shutter, iso, fNumber }, i): DraftPicture => {
    const said = entries[file.path]?.spot;
    const laid = laying.files[i];
    const guess = spots.find((spot) => spot.id === laid.place);
    const spot = said && (said.filter === null || filters.some((one) => one.id === said.filter)) ? said : guess;
    const telemetry = telemetryBeside(file.path, all)?.path;
    const named = readName(file.path, filters);
    const entry = entries[file.path] ?? {};
    return {
      path: file.path,
      scene: spot?.scene ?? 'chart',
      bracket: spot?.bracket ?? false,
      filter: spot && (spot === said || laid.sure) ? spot.filter : undefined,
      shutter,
      iso,
      fNumber,
      capturedAt: factsOf(file).capturedAt,
      ringDegrees: entry.ringDegrees ?? (named.ringDegrees === null ? '' : String(named.ringDegrees)),
      mark: entry.mark ?? (named.mark === null ? '' : String(named.mark)),
      ...(telemetry === undefined ? {} : { telemetry }),
    };
  });

  const changeAll = (changes: ReadonlyMap<string, Entry>) =>
    setHistory((now) => {
      const last = now[now.length - 1];
      const next = { ...last };
      for (const [path, entry] of changes) next[path] = { ...next[path], ...entry };
      return [...now, next];
    });
  return {
    rows,
    laying,
    changeAll,
    change: (path, entry) => changeAll(new Map([[path, entry]])),
    undo: () => setHistory((now) => (now.length > 1 ? now.slice(0, -1) : now)),
    canUndo: history.length > 1,
  };
}

/** A spot by its id. */
export function spotOf(id: string, filters: readonly NamedFilter[]): DraftSpot | undefined {
  const found = draftSpots(filters).find((spot) => spotId(spot) === id);
  return found && { scene: found.scene, filter: found.filter, bracket: found.bracket };
}
