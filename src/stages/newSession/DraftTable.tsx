'use client';

import { createColumnHelper } from '@tanstack/react-table';
import { X } from 'lucide-react';
import { responseAtHand } from '@/core/light/response';
import type { Response } from '@/core/session/schema';
import type { ArrivedFile } from '@/core/sitting/intake/arrived';
import { DRAFT_SCENES, type DraftPicture, type DraftScene } from '@/core/sitting/intake/draft';
import type { NamedFilter } from '@/core/sitting/intake/names';
import { Button } from '@/ui/Button';
import { DataTable, useDataTable } from '@/ui/controls/DataTable';
import { Select } from '@/ui/controls/Select';
import { IconButton } from '@/ui/controls/Tooltip';
import { pictureUrl } from '@/ui/pictures';
import { fieldColumns, shownFields, type FieldRow } from '../footage/fieldColumns';
import { FilterSelect } from '../footage/FilterSelect';
import { describeFacts } from '../intake/words';
import { emptyBelow, filledFrom } from './fill';
import type { DraftRows } from './useDraft';

export const SCENE_NAMES: Readonly<Record<DraftScene, string>> = {
  chart: 'chart',
  flat: 'even wall',
  flare: 'lamp',
  screen: 'white screen',
  water: 'reflections',
  sky: 'clear sky',
};
const SCENES = DRAFT_SCENES.map((scene) => [scene, SCENE_NAMES[scene]] as const);

interface Row extends FieldRow {
  picture: DraftPicture;
  file: ArrivedFile;
  /** What can be filled from this row. */
  below: ReturnType<typeof emptyBelow>;
}

/** One row a file: what was read, and what can be corrected. */
export function DraftTable({
  draft: { rows, change, changeAll },
  files,
  filters,
  apertureFixed,
  response,
  onLeaveOut,
}: {
  draft: DraftRows;
  /** In the order of the rows. */
  files: readonly ArrivedFile[];
  filters: readonly NamedFilter[];
  apertureFixed: boolean;
  response: Response;
  onLeaveOut: (path: string) => void;
}) {
  const data = rows.map((picture, i): Row => ({
    label: picture.path,
    texts: picture,
    picture,
    file: files[i],
    below: emptyBelow(rows, i, filters),
  }));
  const table = useDataTable({
    data,
    columns: COLUMNS,
    getRowId: (row) => row.label,
    state: { columnVisibility: shownFields(filters, { aperture: !apertureFixed, turn: false }) },
    meta: {
      fields: { change },
      filter: {
        change: (path, filter, bracket) =>
          change(path, { spot: { scene: rows.find((one) => one.path === path)!.scene, filter, bracket } }),
      },
      draft: {
        filters,
        response: responseAtHand(response),
        scene: ({ path, filter, bracket }, scene) => change(path, { spot: { scene, bracket, filter: filter ?? null } }),
        fill: (picture, targets) => changeAll(filledFrom(picture, targets)),
        leaveOut: onLeaveOut,
      },
    },
  });
  return (
    <DataTable
      table={table}
      label="Files and their settings"
      className="mt-5"
      rowHeight={61}
      rowProps={() => ({ className: 'border-b border-rule' })}
    />
  );
}

declare module '@tanstack/react-table' {
  // eslint-disable-next-line @typescript-eslint/no-unused-vars -- the library's own parameter
  interface TableMeta<TData> {
    draft?: {
      filters: readonly NamedFilter[];
      response: Response;
      scene: (picture: DraftPicture, scene: DraftScene) => void;
      fill: (from: DraftPicture, targets: readonly DraftPicture[]) => void;
      leaveOut: (path: string) => void;
    };
  }
}

const column = createColumnHelper<Row>();

/** Made once: a column that is made anew would take the focus from what is typed in it. */
const COLUMNS = [
  column.display({
    id: 'picture',
    header: 'Picture',
    meta: { cell: 'w-[84px]' },
    cell: ({ row: { original }, table }) => (
      <img
        src={pictureUrl(original.file.stored.sha256, 320, table.options.meta!.draft!.response)}
        alt=""
        width={72}
        height={48}
        loading="lazy"
        className="w-[72px] h-[48px] object-cover rounded-sm bg-well"
      />
    ),
  }),
  column.display({
    id: 'file',
    header: 'File',
    cell: ({ row: { original } }) => (
      <>
        <div className="break-all">{original.label}</div>
        <div className="text-ink-3 text-small">
          {describeFacts(original.file)}
          {original.picture.telemetry && `, exposure from ${original.picture.telemetry}`}
        </div>
      </>
    ),
  }),
  column.display({
    id: 'filter',
    header: 'Filter',
    meta: { cell: 'w-[150px]' },
    cell: ({ row: { original }, table }) => (
      <FilterSelect
        label={`Filter of ${original.label}`}
        value={original.picture.filter}
        filters={table.options.meta!.draft!.filters}
        bracket={original.picture.bracket}
        onChange={(filter, bracket) => table.options.meta!.filter!.change(original.label, filter, bracket)}
      />
    ),
  }),
  column.display({
    id: 'scene',
    header: 'Shows',
    meta: { cell: 'w-[124px]' },
    cell: ({ row: { original }, table }) => (
      <Select
        label={`What ${original.label} shows`}
        className="w-full"
        value={original.picture.scene}
        options={SCENES}
        onChange={(scene) => table.options.meta!.draft!.scene(original.picture, scene)}
      />
    ),
  }),
  ...fieldColumns<Row>(),
  column.display({
    id: 'actions',
    header: () => <span className="sr-only">What can be done</span>,
    meta: { right: true, cell: 'whitespace-nowrap' },
    cell: ({ row: { original }, table }) => {
      const { fill, leaveOut } = table.options.meta!.draft!;
      const { below, picture, label } = original;
      return (
        <>
          {below && (
            <Button look="quiet" onClick={() => fill(picture, below.rows)}>
              {below.words}
            </Button>
          )}
          <IconButton
            label={`Leave ${label} out`}
            words="Leave out"
            className="align-middle"
            onClick={() => leaveOut(label)}
          >
            <X size={16} aria-hidden />
          </IconButton>
        </>
      );
    },
  }),
];
