'use client';

import { useState } from 'react';
import { editTakesAction, type TakeEdit } from '@/app/server/actions';
import { parseShutter } from '@/core/exposure';
import type { SessionView } from '@/ui/sessionView';
import { pictureUrl } from '@/ui/pictures';
import { Button } from '@/ui/Button';
import { StopLadder } from '@/ui/ladder/StopLadder';
import { useSelectedFilter } from '@/ui/selection';
import { ExposureFields, FilterSelect } from './TakeFields';

/** The takes of a session: which filter, which exposure; what is wrong can be put right. */
export function Footage({ view }: { view: SessionView }) {
  const { session, files } = view;
  const [selected, select] = useSelectedFilter(view.beads);
  const filters = session.kits.flatMap((kit) => kit.filters);
  const given: TakeEdit[] = session.takes.map((take) => ({
    id: take.id,
    filter: take.filter,
    shutter: take.exposure.shutter === undefined ? '' : String(take.exposure.shutter),
    iso: take.exposure.iso === undefined ? '' : String(take.exposure.iso),
    fNumber: take.exposure.fNumber === undefined ? '' : String(take.exposure.fNumber),
  }));
  const [edits, setEdits] = useState<Record<string, Partial<TakeEdit>>>({});
  const [message, setMessage] = useState<{ text: string; bad: boolean } | null>(null);
  const changed = Object.keys(edits).length;
  const wrong = Object.values(edits).some((edit) => edit.shutter && parseShutter(edit.shutter) === null);

  const change = (id: string, edit: Partial<TakeEdit>) => {
    setMessage(null);
    setEdits((now) => ({ ...now, [id]: { ...now[id], ...edit } }));
  };
  async function save() {
    const result = await editTakesAction(
      view.id,
      given.filter((take) => edits[take.id]).map((take) => ({ ...take, ...edits[take.id] })),
    );
    setMessage(
      result.ok
        ? { text: 'Saved. Measure again to renew the figures.', bad: false }
        : { text: result.error, bad: true },
    );
    if (result.ok) setEdits({});
  }

  return (
    <>
      <StopLadder beads={view.beads} selected={selected} onSelect={select} />
      <main id="main" className="w-full max-w-[1244px] mx-auto px-[18px] py-[18px]">
        <div className="flex justify-between items-start gap-4 flex-wrap">
          <div>
            <h1>
              {session.takes.length} takes, {session.takes.reduce((sum, take) => sum + take.files.length, 0)} pictures
            </h1>
            <p className="text-ink-2 text-[15px] mt-1">
              Exposure left empty is read from the files. Correct a filter or a setting here; the pictures stay as they
              are.
            </p>
          </div>
          <Button look={changed > 0 ? 'main' : 'plain'} disabled={changed === 0 || wrong} onClick={save}>
            Save changes
          </Button>
        </div>
        {message && (
          <p role={message.bad ? 'alert' : 'status'} className={`mt-3 ${message.bad ? 'text-failure' : 'text-ink-2'}`}>
            {message.text}
          </p>
        )}
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
            </tr>
          </thead>
          <tbody>
            {session.takes.map((take, i) => {
              const value = { ...given[i], ...edits[take.id] };
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
                      onChange={(filter) => change(take.id, { filter })}
                    />
                  </td>
                  <ExposureFields
                    label={take.id}
                    value={value}
                    withAperture
                    empty={take.telemetry ? 'telemetry' : 'from file'}
                    onChange={(exposure) => change(take.id, exposure)}
                  />
                </tr>
              );
            })}
          </tbody>
        </table>
      </main>
    </>
  );
}
