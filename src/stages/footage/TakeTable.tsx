'use client';

import type { TakeEdit } from '@/server/actions';
import { pictureUrl } from '@/ui/pictures';
import type { SessionView } from '@/ui/sessionView';
import { ExposureFields, FilterSelect, settingColumns, SettingFields } from './TakeFields';

/** One row a take: filter and exposure can be corrected. */
export function TakeTable({
  view: { session, files },
  values,
  selected,
  onChange,
}: {
  view: SessionView;
  /** In the order of the takes. */
  values: readonly TakeEdit[];
  selected: string | null;
  onChange: (id: string, edit: Partial<TakeEdit>) => void;
}) {
  const filters = session.kits.flatMap((kit) => kit.filters);
  const columns = { ...settingColumns(filters), turn: session.scenes.some((scene) => scene.kind === 'sky') };
  return (
    <table className="w-full mt-4 border-collapse">
      <thead>
        <tr className="text-left text-ink-3 text-[12px] border-b border-[#5a5a5a]">
          <th className="font-medium py-1.5 pr-3">Pictures</th>
          <th className="font-medium pr-3">Take</th>
          <th className="font-medium pr-3">Time</th>
          <th className="font-medium pr-3">Filter</th>
          <th className="font-medium pr-3">Shutter</th>
          <th className="font-medium pr-3">ISO</th>
          <th className="font-medium pr-3">f-number</th>
          {columns.ring && <th className="font-medium pr-3">Ring, °</th>}
          {columns.mark && <th className="font-medium pr-3">Mark</th>}
          {columns.turn && <th className="font-medium pr-3">Turn, °</th>}
        </tr>
      </thead>
      <tbody>
        {session.takes.map((take, i) => {
          const value = values[i];
          return (
            <tr
              key={take.id}
              className={`border-b border-[#484848] ${value.filter !== null && value.filter === selected ? 'bg-sheet' : ''}`}
            >
              <td className="py-1.5 pr-3">
                <div className="flex gap-1">
                  {take.files.slice(0, 4).map((file) => (
                    <img
                      key={file}
                      src={pictureUrl(files[file], 320, session.rig.response)}
                      alt={`${file}`}
                      width={60}
                      height={40}
                      loading="lazy"
                      className="w-[60px] h-[40px] object-cover rounded-sm bg-well"
                    />
                  ))}
                </div>
              </td>
              <td className="pr-3">
                {take.id}
                {take.role === 'sweep' && <div className="text-ink-3 text-[12px]">of a sweep</div>}
                {take.role === 'bracket' && <div className="text-ink-3 text-[12px]">of the bracket</div>}
                {take.telemetry && (
                  <div className="text-ink-3 text-[12px]">exposure from {take.telemetry}, unless entered here</div>
                )}
                {take.note && <div className="text-ink-3 text-[12px]">{take.note}</div>}
              </td>
              <td className="pr-3 text-ink-2 whitespace-nowrap">
                {take.capturedAt ? take.capturedAt.slice(11, 19) : 'from the file'}
              </td>
              <td className="pr-3">
                <FilterSelect
                  label={`Filter of ${take.id}`}
                  value={value.filter}
                  filters={filters}
                  onChange={(filter) => onChange(take.id, { filter })}
                />
              </td>
              <ExposureFields
                label={take.id}
                value={value}
                withAperture
                empty={take.telemetry ? 'telemetry' : 'from file'}
                onChange={(exposure) => onChange(take.id, exposure)}
              />
              <SettingFields
                label={take.id}
                value={value}
                columns={columns}
                onChange={(setting) => onChange(take.id, setting)}
              />
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
