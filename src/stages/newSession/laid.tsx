/** The files of a draft as the board and the questions show them. */
import { POLARIZED_SCENES, polarizes } from '@/core/session/polarizing';
import type { Response } from '@/core/session/schema';
import type { ArrivedFile } from '@/core/sitting/intake/arrived';
import { DRAFT_SCENES, type DraftPicture, type DraftScene } from '@/core/sitting/intake/draft';
import type { NamedFilter } from '@/core/sitting/intake/names';
import { spotId } from '@/core/sitting/intake/spots';
import type { BoardGroup } from '../intake/LayBoard';
import type { Question } from '../intake/Questions';
import { describeFacts } from '../intake/words';
import { SCENE_NAMES } from './DraftTable';
import { DraftTile } from './DraftTile';
import { spotOf, type DraftRows } from './useDraft';

const SCENE_TITLES: Readonly<Record<DraftScene, string>> = {
  chart: 'Chart',
  flat: 'Even wall',
  flare: 'Lamp',
  screen: 'White screen',
  water: 'Reflections',
  sky: 'Clear sky',
};

const nameOf = (filter: string | null, filters: readonly NamedFilter[]) =>
  filter === null ? 'bare' : (filters.find((one) => one.id === filter)?.name ?? filter);

function labelOf(id: string, filters: readonly NamedFilter[]): string {
  const spot = spotOf(id, filters);
  if (!spot) return id;
  const name = spot.bracket ? 'bare, bracket' : nameOf(spot.filter, filters);
  return spot.scene === 'chart' ? name : `${name}, ${SCENE_NAMES[spot.scene]}`;
}

/** Files that are not sure where they belong, with the likeliest places; none before a kit is known. */
export function questionsOf(
  { rows, laying }: Pick<DraftRows, 'rows' | 'laying'>,
  files: readonly ArrivedFile[],
  filters: readonly NamedFilter[],
): Question[] {
  if (filters.length === 0) return [];
  return rows.flatMap((row, i): Question[] => {
    if (row.filter !== undefined) return [];
    const { doubt, candidates } = laying.files[i];
    return [
      {
        file: files[i],
        doubt,
        facts: describeFacts(files[i]),
        options: candidates.map(({ place, reasons }) => ({ id: place, label: labelOf(place, filters), reasons })),
      },
    ];
  });
}

/** Files by scene and filter: those that are laid. */
export function groupsOf(
  rows: readonly DraftPicture[],
  files: readonly ArrivedFile[],
  filters: readonly NamedFilter[],
  response: Response,
): BoardGroup[] {
  return DRAFT_SCENES.flatMap((scene): BoardGroup[] => {
    const here = rows.flatMap((row, i) => (row.scene === scene && row.filter !== undefined ? [{ row, i }] : []));
    if (here.length === 0) return [];
    const spots = [
      ...[null, ...shotOn(scene, filters)].map((filter) => ({ scene, filter, bracket: false })),
      ...(here.some(({ row }) => row.bracket) ? [{ scene, filter: null, bracket: true }] : []),
    ];
    return [
      {
        id: scene,
        title: SCENE_TITLES[scene],
        rows: spots.map((spot) => ({
          id: spotId(spot),
          label: spot.bracket ? 'bracket' : nameOf(spot.filter, filters),
          missing: 'no file yet: drag one here',
          tiles: here
            .filter(({ row }) => row.filter === spot.filter && row.bracket === spot.bracket)
            .map(({ row, i }) => ({
              path: row.path,
              node: <DraftTile row={row} file={files[i]} response={response} />,
            })),
        })),
      },
    ];
  });
}

/** Filters that are looked for on a scene: before polarized light only those that polarize. */
function shotOn(scene: DraftScene, filters: readonly NamedFilter[]): string[] {
  return filters.filter((filter) => !POLARIZED_SCENES.has(scene) || polarizes(filter)).map((filter) => filter.id);
}
