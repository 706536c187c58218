'use client';

import { type DragEvent } from 'react';
import type { FootageView } from '@/server/footage';
import { plannedOf } from '@/core/sitting/planning/planned';
import { Button, buttonClass } from '@/ui/Button';
import { Link } from '@/ui/Link';
import { StopLadder } from '@/ui/ladder/StopLadder';
import { useSelectedFilter } from '@/ui/selection';
import type { SessionView } from '@/ui/sessionView';
import { LayBoard } from '../intake/LayBoard';
import { filesOfDrop } from '../intake/upload';
import { AddButton, useAddFiles } from './AddFiles';
import { boardOf } from './board';
import { ChecksPanel } from './ChecksPanel';
import { FileTile } from './FileTile';
import { Practice } from './Practice';
import { TakeTable } from './TakeTable';
import { useTakeEdits } from './useTakeEdits';

/** The files of a session by scene and filter, what is wrong with them, and what can be put right. */
export function Footage({ view, footage }: { view: SessionView; footage: FootageView }) {
  const { session } = view;
  const [selected, select] = useSelectedFilter(view.beads);
  const edits = useTakeEdits(view);
  const { add, lay, panel } = useAddFiles(view.id, session, edits.tellChange);
  const groups = boardOf(session, (path, take) => (
    <FileTile
      path={path}
      take={take}
      tile={footage.tiles[path]}
      response={session.rig.response}
      doubts={footage.checks.filter((check) => check.file === path).length}
    />
  ));
  const stops = footage.checks.filter((check) => check.severity === 'stop').length;
  const files = session.takes.reduce((sum, take) => sum + take.files.length, 0);
  const { message } = edits;

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
              {files} {files === 1 ? 'file' : 'files'} on {session.takes.length}{' '}
              {session.takes.length === 1 ? 'take' : 'takes'}
              {stops > 0 && `: ${stops} ${stops === 1 ? 'thing needs' : 'things need'} a hand`}
            </h1>
            <p className="text-ink-2 text-lead mt-1">
              Drop more files anywhere: they are laid by name, time, exposure and what they show. Drag a picture to
              another filter where it lies wrong.
            </p>
          </div>
          <div className="flex gap-2">
            <AddButton onFiles={(list) => void add(list)} />
            <Link className={buttonClass(edits.changed ? 'plain' : 'main')} href={`/sessions/${view.id}/regions`}>
              {session.patches.length === 0 ? 'Place the regions' : 'Look at the regions'}
            </Link>
          </div>
        </div>
        {message && (
          <p role={message.bad ? 'alert' : 'status'} className={`mt-3 ${message.bad ? 'text-failure' : 'text-ink-2'}`}>
            {message.text}{' '}
            {edits.canTakeBack && (
              <Button look="quiet" onClick={() => void edits.takeBack()}>
                Take it back
              </Button>
            )}
          </p>
        )}
        {panel}
        {session.takes.length === 0 && plannedOf(session).length > 0 && <Practice sessionId={view.id} onCard={lay} />}
        <ChecksPanel checks={footage.checks} tiles={footage.tiles} response={session.rig.response} />
        <LayBoard groups={groups} onMove={(path, row) => void edits.move(path, row)} />
        <div className="flex justify-between items-end gap-4 flex-wrap mt-9">
          <div>
            <h2>Takes and their settings</h2>
            <p className="text-ink-2 mt-0.5">Exposure left empty is read from the files or the telemetry.</p>
          </div>
          <Button
            look={edits.changed ? 'main' : 'plain'}
            disabled={!edits.changed || edits.wrong}
            onClick={() => void edits.save()}
          >
            Save changes
          </Button>
        </div>
        <TakeTable view={view} values={edits.values} selected={selected} onChange={edits.edit} />
      </main>
    </>
  );
}
