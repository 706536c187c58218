'use client';

import { Link } from '@/ui/Link';
import { useState, type DragEvent } from 'react';
import {
  editTakesAction,
  moveFileAction,
  restoreTakesAction,
  type TakeEdit,
  type TakesChanged,
} from '@/server/actions';
import type { FootageView } from '@/server/footage';
import { parseShutter } from '@/core/formulas/optics/exposure';
import { formatTurn, parseTurn } from '@/core/sitting/intake/turnText';
import { plannedOf } from '@/core/sitting/planning/planned';
import { Button, buttonClass } from '@/ui/Button';
import { StopLadder } from '@/ui/ladder/StopLadder';
import { useSelectedFilter } from '@/ui/selection';
import type { SessionView } from '@/ui/sessionView';
import { LayBoard, type BoardGroup } from '../intake/LayBoard';
import { filesOfDrop } from '../intake/upload';
import { AddButton, useAddFiles } from './AddFiles';
import { Practice } from './Practice';
import { ChecksPanel } from './ChecksPanel';
import { FileTile } from './FileTile';
import { TakeTable } from './TakeTable';

/** The files of a session by scene and filter, what is wrong with them, and what can be put right. */
export function Footage({ view, footage }: { view: SessionView; footage: FootageView }) {
  const { session } = view;
  const [selected, select] = useSelectedFilter(view.beads);
  const filters = session.kits.flatMap((kit) => kit.filters);
  const given: TakeEdit[] = session.takes.map((take) => ({
    id: take.id,
    filter: take.filter,
    shutter: take.exposure.shutter === undefined ? '' : String(take.exposure.shutter),
    iso: take.exposure.iso === undefined ? '' : String(take.exposure.iso),
    fNumber: take.exposure.fNumber === undefined ? '' : String(take.exposure.fNumber),
    ringDegrees: take.setting?.ringDegrees === undefined ? '' : String(take.setting.ringDegrees),
    mark: take.setting?.mark === undefined ? '' : String(take.setting.mark),
    turn: formatTurn(take.turn),
  }));
  const [edits, setEdits] = useState<Record<string, Partial<TakeEdit>>>({});
  const [message, setMessage] = useState<{ text: string; bad: boolean; before?: unknown[] } | null>(null);
  const changed = Object.keys(edits).length;
  const wrong = Object.values(edits).some(
    (edit) => (edit.shutter && parseShutter(edit.shutter) === null) || (edit.turn && parseTurn(edit.turn) === null),
  );

  const tellChange = (change: TakesChanged, words: string) =>
    setMessage(
      change.ok
        ? { text: `${words} Measure again to renew the figures.`, bad: false, before: change.before }
        : { text: change.error, bad: true },
    );
  const { add, lay, panel } = useAddFiles(view.id, session, tellChange);

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
  async function move(path: string, row: string) {
    const [scene, name] = JSON.parse(row) as [string, string];
    const filter = name === BARE || name === BRACKET ? null : name;
    const from = session.takes.find((take) => take.files.includes(path));
    if (!from || (from.scene === scene && from.filter === filter)) return;
    const words = `${path} is laid on ${filter === null ? 'bare' : (filters.find((one) => one.id === filter)?.name ?? filter)}.`;
    tellChange(await moveFileAction(view.id, path, { take: null, filter, scene }), words);
  }
  async function takeBack(before: unknown[]) {
    const result = await restoreTakesAction(view.id, before);
    setMessage(result.ok ? { text: 'Taken back.', bad: false } : { text: result.error, bad: true });
  }

  const groups = session.scenes.flatMap((scene): BoardGroup[] => {
    const takes = session.takes.filter((take) => take.scene === scene.id);
    if (takes.length === 0) return [];
    const rowOf = (id: string, label: string, own: typeof takes, missing?: string) => ({
      id: JSON.stringify([scene.id, id]),
      label,
      missing,
      tiles: own.flatMap((take) =>
        take.files.map((path) => ({
          path,
          node: (
            <FileTile
              path={path}
              take={take}
              tile={footage.tiles[path]}
              response={session.rig.response}
              doubts={footage.checks.filter((check) => check.file === path).length}
            />
          ),
        })),
      ),
    });
    const measured = takes.filter((take) => take.role !== 'bracket');
    const brackets = takes.filter((take) => take.role === 'bracket');
    const bare = measured.filter((take) => take.filter === null);
    return [
      {
        id: scene.id,
        title: titleOf(scene),
        rows: [
          rowOf(BARE, 'bare', bare, 'no bare take: nothing to compare with'),
          ...filters.map((filter) =>
            rowOf(
              filter.id,
              filter.name ?? filter.id,
              measured.filter((take) => take.filter === filter.id),
              'no take yet',
            ),
          ),
          ...(brackets.length > 0 ? [rowOf(BRACKET, 'bracket', brackets)] : []),
        ],
      },
    ];
  });
  const stops = footage.checks.filter((check) => check.severity === 'stop').length;
  const files = session.takes.reduce((sum, take) => sum + take.files.length, 0);

  return (
    <>
      <StopLadder beads={view.beads} selected={selected} onSelect={select} />
      <main
        id="main"
        className="w-full max-w-[1244px] mx-auto px-[18px] py-[18px]"
        onDragOver={(event: DragEvent) => event.dataTransfer.types.includes('Files') && event.preventDefault()}
        onDrop={(event: DragEvent) => {
          if (!event.dataTransfer.types.includes('Files')) return;
          event.preventDefault();
          void filesOfDrop(event.dataTransfer).then(add);
        }}
      >
        <div className="flex justify-between items-start gap-4 flex-wrap">
          <div>
            <h1>
              {files} {files === 1 ? 'file' : 'files'} on {session.takes.length} takes
              {stops > 0 && `: ${stops} ${stops === 1 ? 'thing needs' : 'things need'} a hand`}
            </h1>
            <p className="text-ink-2 text-[15px] mt-1">
              Drop more files anywhere: they are laid by name, time, exposure and what they show. Drag a picture to
              another filter where it lies wrong.
            </p>
          </div>
          <div className="flex gap-2">
            <AddButton onFiles={(list) => void add(list)} />
            <Link className={buttonClass(changed > 0 ? 'plain' : 'main')} href={`/sessions/${view.id}/regions`}>
              {session.patches.length === 0 ? 'Place the regions' : 'Look at the regions'}
            </Link>
          </div>
        </div>
        {message && (
          <p role={message.bad ? 'alert' : 'status'} className={`mt-3 ${message.bad ? 'text-failure' : 'text-ink-2'}`}>
            {message.text}{' '}
            {message.before && (
              <Button look="quiet" onClick={() => void takeBack(message.before!)}>
                Take it back
              </Button>
            )}
          </p>
        )}
        {panel}
        {session.takes.length === 0 && plannedOf(session).length > 0 && <Practice sessionId={view.id} onCard={lay} />}
        <ChecksPanel checks={footage.checks} tiles={footage.tiles} response={session.rig.response} />
        <LayBoard groups={groups} onMove={(path, row) => void move(path, row)} />
        <div className="flex justify-between items-end gap-4 flex-wrap mt-9">
          <div>
            <h2>Takes and their settings</h2>
            <p className="text-ink-2 mt-0.5">Exposure left empty is read from the files or the telemetry.</p>
          </div>
          <Button look={changed > 0 ? 'main' : 'plain'} disabled={changed === 0 || wrong} onClick={save}>
            Save changes
          </Button>
        </div>
        <TakeTable
          view={view}
          values={given.map((take) => ({ ...take, ...edits[take.id] }))}
          selected={selected}
          onChange={(id, edit) => {
            setMessage(null);
            setEdits((now) => ({ ...now, [id]: { ...now[id], ...edit } }));
          }}
        />
      </main>
    </>
  );
}

const BARE = '·bare';
const BRACKET = '·bracket';

function titleOf({ id, kind }: SessionView['session']['scenes'][number]): string {
  const words = id === kind ? id : `${id} (${kind})`;
  return words[0].toUpperCase() + words.slice(1);
}
