'use client';

import { X } from 'lucide-react';
import { DRAFT_SCENES, type DraftPicture, type DraftScene } from '@/core/sitting/intake/draft';
import type { ArrivedFile } from '@/core/sitting/intake/arrived';
import type { NamedFilter } from '@/core/sitting/intake/names';
import { responseAtHand } from '@/core/light/response';
import type { Response } from '@/core/session/schema';
import { Button } from '@/ui/Button';
import { pictureUrl } from '@/ui/pictures';
import { ExposureFields, FilterSelect, settingColumns, SettingFields } from '../footage/TakeFields';
import { describeFacts } from '../intake/words';
import type { DraftRows } from './useDraft';

export const SCENE_NAMES: Readonly<Record<DraftScene, string>> = {
  chart: 'chart',
  flat: 'even wall',
  flare: 'lamp',
  screen: 'white screen',
  water: 'reflections',
  sky: 'clear sky',
};

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
  const columns = settingColumns(filters);
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
  const fill = (index: number, targets: DraftPicture[]) => {
    const { shutter, iso, fNumber } = rows[index];
    changeAll(
      new Map(
        targets.map((row) => [
          row.path,
          { shutter: row.shutter || shutter, iso: row.iso || iso, fNumber: row.fNumber || fNumber },
        ]),
      ),
    );
  };
  return (
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
          {columns.ring && <th className="font-medium pr-3 w-[76px]">Ring, °</th>}
          {columns.mark && <th className="font-medium pr-3 w-[68px]">Mark</th>}
          <th className="w-[210px]" />
        </tr>
      </thead>
      <tbody>
        {rows.map((row, index) => {
          const file = files[index];
          const below = emptyBelow(index);
          const { filter, scene, bracket } = row;
          const spot = { scene, bracket, filter: filter ?? null };
          return (
            <tr key={row.path} className="border-b border-[#484848]">
              <td className="py-1.5 pr-3">
                <img
                  src={pictureUrl(file.stored.sha256, 320, responseAtHand(response))}
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
                  {describeFacts(file)}
                  {row.telemetry && `, exposure from ${row.telemetry}`}
                </div>
              </td>
              <td className="pr-3">
                <FilterSelect
                  label={`Filter of ${row.path}`}
                  value={filter}
                  filters={filters}
                  bracket={bracket}
                  onChange={(chosen, inBracket) =>
                    change(row.path, { spot: { ...spot, filter: chosen, bracket: inBracket } })
                  }
                />
              </td>
              <td className="pr-3">
                <select
                  aria-label={`What ${row.path} shows`}
                  className="field w-full"
                  value={scene}
                  onChange={(event) => change(row.path, { spot: { ...spot, scene: event.target.value as DraftScene } })}
                >
                  {DRAFT_SCENES.map((one) => (
                    <option key={one} value={one}>
                      {SCENE_NAMES[one]}
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
              <SettingFields
                label={row.path}
                value={row}
                columns={columns}
                onChange={(setting) => change(row.path, setting)}
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
                  onClick={() => onLeaveOut(row.path)}
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
  );
}
