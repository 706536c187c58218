'use client';

import { FilePlus2 } from 'lucide-react';
import { useRef, useState } from 'react';
import type { TakesChanged } from '@/server/addFiles';
import { addFilesAction, layAction } from '@/server/takeActions';
import { clockIsOff, duration } from '@/core/sitting/intake/cameraClock';
import {
  isTelemetry,
  exposureBeside,
  telemetryBeside,
  type ArrivedFile,
  type StoredFile,
} from '@/core/sitting/intake/arrived';
import { sessionSpots } from '@/core/sitting/intake/spots';
import type { LaidFile } from '@/core/sitting/intake/laidFile';
import type { Session } from '@/core/session/schema';
import { Button } from '@/ui/Button';
import { FilePicker, type Picking } from '@/ui/controls/FilePicker';
import { notAnswered } from '@/ui/saving/asked';
import { describeFacts } from '../intake/words';
import { Questions, type Question } from '../intake/Questions';
import { SendingPanel } from '../intake/SendingPanel';
import { Sending, takeUpload, type FileToSend, type UploadProgress } from '../intake/upload';

interface Asked {
  file: ArrivedFile;
  laid: LaidFile;
}

/** More files for a session: sure ones are laid at once, the others are asked. */
export function useAddFiles(
  sessionId: string,
  session: Session,
  onChanged: (change: TakesChanged, words: string) => void,
) {
  const [progress, setProgress] = useState<{ what: string; state: UploadProgress | null } | null>(null);
  const [asked, setAsked] = useState<Asked[]>([]);
  const [arrived, setArrived] = useState<ArrivedFile[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const sending = useRef<Sending | null>(null);
  const spots = sessionSpots(session);

  async function add(files: FileToSend[]) {
    setProblem(null);
    if (files.length === 0) return;
    const what = `${files.length} ${files.length === 1 ? 'file' : 'files'}`;
    setProgress({ what, state: null });
    try {
      const running = new Sending(files, (state) => setProgress({ what, state }));
      sending.current = running;
      const stored = await running.done((upload) => takeUpload<StoredFile>('/api/files', { upload, waits: true }));
      await lay(files.map(({ path }, i) => ({ path, stored: stored[i] })));
    } catch (error) {
      setProblem((error as Error).message);
    } finally {
      sending.current = null;
      setProgress(null);
    }
  }

  async function lay(files: ArrivedFile[]) {
    const unreadable = files.filter((file) => !file.stored.facts.readable && !isTelemetry(file));
    const answer = await layAction(
      sessionId,
      files.map(({ path, stored }) => ({ path, sha256: stored.sha256 })),
    ).catch(notAnswered);
    if (!answer.ok) return setProblem(answer.error);
    const { laid, clockOffsetSeconds } = answer;
    const all = [...arrived, ...files];
    setArrived(all);
    const fileOf = (path: string) => files.find((one) => one.path === path)!;
    const sure = laid.filter((one) => one.sure && one.place !== null);
    setAsked((now) => [
      ...now,
      ...laid.filter((one) => !sure.includes(one)).map((one) => ({ file: fileOf(one.path), laid: one })),
    ]);
    const words = [
      ...unreadable.map(
        (file) => `${file.path} is left out: ${file.stored.facts.readable ? '' : file.stored.facts.reason}`,
      ),
      ...(clockIsOff({ files: laid, clockOffsetSeconds })
        ? [
            `The camera’s clock is ${duration(Math.abs(clockOffsetSeconds!))} ${clockOffsetSeconds! > 0 ? 'ahead of' : 'behind'} the log’s; that is taken off.`,
          ]
        : []),
    ];
    if (words.length > 0) setProblem(words.join('\n'));
    if (sure.length > 0)
      await place(
        sure.map((one) => ({ file: fileOf(one.path), spot: one.place! })),
        all,
      );
  }

  async function place(placed: { file: ArrivedFile; spot: string }[], all = arrived) {
    const change = await addFilesAction(
      sessionId,
      placed.flatMap(({ file, spot }) => {
        const to = spots.find((one) => one.id === spot);
        const telemetry = telemetryBeside(file.path, all);
        const beside = telemetry && { path: telemetry.path, sha256: telemetry.stored.sha256 };
        if (!to) return [];
        const { shutterSeconds, iso } = exposureBeside(file, all);
        const target = {
          take: to.take,
          filter: to.filter,
          scene: to.scene,
          ...(to.planned === undefined ? {} : { planned: to.planned }),
          exposed: shutterSeconds !== undefined && iso !== undefined,
        };
        return [{ path: file.path, sha256: file.stored.sha256, to: target, telemetry: beside }];
      }),
    );
    onChanged(change, `${placed.length} ${placed.length === 1 ? 'file' : 'files'} laid.`);
    if (change.ok) setAsked((now) => now.filter((one) => !placed.some(({ file }) => file === one.file)));
  }

  const nameOf = (id: string) => {
    const spot = spots.find((one) => one.id === id);
    if (!spot) return id;
    const filter = session.kits.flatMap((kit) => kit.filters).find((one) => one.id === spot.filter);
    const name = spot.filter === null ? 'bare' : (filter?.name ?? spot.filter);
    if (spot.planned !== undefined) return `${name}: ${spot.planned}, as planned`;
    return spot.take === null ? `${name} on ${spot.scene}, a new take` : `${name}: ${spot.take}`;
  };
  const questions = asked.map(({ file, laid }): Question => ({
    file,
    doubt: laid.doubt,
    facts: describeFacts(file),
    options: laid.candidates.map((one) => ({ id: one.place, label: nameOf(one.place), reasons: one.reasons })),
  }));
  const panel = (
    <>
      {progress && (
        <section aria-label="Upload" className="mt-4 rounded-sheet bg-sheet p-4">
          <SendingPanel
            what={progress.what}
            progress={progress.state}
            onPause={() => sending.current?.pause()}
            onGoOn={() => sending.current?.goOn()}
            onStop={() => void sending.current?.abort()}
          />
        </section>
      )}
      {problem && (
        <p role="alert" className="text-failure mt-3 whitespace-pre-line">
          {problem}
        </p>
      )}
      <Questions
        questions={questions}
        response={session.rig.response}
        onChoose={(path, spot) => void place([{ file: asked.find((one) => one.file.path === path)!.file, spot }])}
        onAll={() =>
          void place(
            asked.flatMap(({ file, laid }) =>
              laid.candidates.length > 0 ? [{ file, spot: laid.candidates[0].place }] : [],
            ),
          )
        }
        onUndo={() => undefined}
        canUndo={false}
      />
    </>
  );
  return { add, lay, panel };
}

/** Chooses files to add. */
export function AddButton({ onFiles }: { onFiles: (files: FileToSend[]) => void }) {
  const picker = useRef<Picking>(null);
  return (
    <>
      <Button onClick={() => picker.current?.open()}>
        <FilePlus2 size={16} aria-hidden /> Add files
      </Button>
      <FilePicker
        picking={picker}
        label="More files"
        multiple
        onFiles={(files) => onFiles(files.map((file) => ({ path: file.name, file })))}
      />
    </>
  );
}
