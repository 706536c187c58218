'use client';

import { useRef, useState, type DragEvent } from 'react';
import type { ArrivedFile } from '@/core/sitting/intake/arrived';
import type { RigChoice } from '@/core/sitting/kits/rigChoice';
import { FilePicker, type Picking } from '@/ui/controls/FilePicker';
import { filesOfDrop } from '../intake/upload';
import { Draft } from './Draft';
import { DropPlace } from './DropPlace';
import { useIntake } from './useIntake';
import { WaitingFiles } from './WaitingFiles';

/** Drop a bundle, a session's folder, or just pictures; the rest is asked for. */
export function NewSession({ inbox, rigs = [] }: { inbox: ArrivedFile[]; rigs?: readonly RigChoice[] }) {
  const intake = useIntake(inbox);
  const { phase, problem, waiting, sending } = intake;
  const [over, setOver] = useState(false);
  const filePicker = useRef<Picking>(null);
  const folderPicker = useRef<Picking>(null);

  const drop = {
    onDragOver: (event: DragEvent) => {
      event.preventDefault();
      setOver(true);
    },
    onDragLeave: () => setOver(false),
    onDrop: (event: DragEvent) => {
      event.preventDefault();
      setOver(false);
      void filesOfDrop(event.dataTransfer).then(intake.take);
    },
  };
  const picked = (files: File[]) =>
    void intake.take(files.map((file) => ({ path: file.webkitRelativePath || file.name, file })));

  return (
    <main id="main" className="w-full max-w-[1244px] mx-auto px-[18px] py-7" {...drop}>
      {phase.name !== 'draft' && (
        <>
          <h1>New session</h1>
          <p className="text-ink-2 text-lead mt-1 max-w-[70ch]">
            Drop a bench’s pictures, bare and with each filter. Exposures and times are read from the files, filters
            from their names; only what is missing is asked for.
          </p>
          <DropPlace
            over={over}
            sending={phase.name === 'sending' ? phase : null}
            onFiles={() => filePicker.current?.open()}
            onFolder={() => folderPicker.current?.open()}
            onPause={() => sending.current?.pause()}
            onGoOn={() => sending.current?.goOn()}
            onStop={() => void sending.current?.abort()}
          />
          {phase.name === 'waiting' && waiting.length > 0 && (
            <WaitingFiles files={waiting} onGoOn={intake.goOnWithWaiting} onPutAway={intake.putWaitingAway} />
          )}
        </>
      )}
      {problem && (
        <p role="alert" className="text-failure my-4 whitespace-pre-line">
          {problem}
        </p>
      )}
      {phase.name === 'draft' && (
        <Draft
          pictures={phase.pictures}
          rigs={rigs}
          onMore={() => filePicker.current?.open()}
          onLeaveOut={intake.leaveOut}
        />
      )}
      <FilePicker picking={filePicker} label="Files" multiple onFiles={picked} />
      <FilePicker picking={folderPicker} label="Folder" folder onFiles={picked} />
    </main>
  );
}
