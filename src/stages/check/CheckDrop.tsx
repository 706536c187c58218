'use client';

import { ImageUp, X } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState, type DragEvent } from 'react';
import { formatShutter } from '@/core/formulas/optics/exposure';
import { factsOf, type StoredFile } from '@/core/sitting/intake/arrived';
import {
  missingInCheck,
  sessionOfCheck,
  type CheckPicture,
  type CheckScene,
} from '@/core/sitting/planning/cameraCheck';
import { measureAction } from '@/server/sessionActions';
import { Button } from '@/ui/Button';
import { FilePicker, type Picking } from '@/ui/controls/FilePicker';
import { IconButton } from '@/ui/controls/Tooltip';
import { notAnswered } from '@/ui/saving/asked';
import { SendingPanel } from '../intake/SendingPanel';
import { filesOfDrop, Sending, takeUpload, type FileToSend, type UploadProgress } from '../intake/upload';
import { createSession } from '../newSession/createSession';
import { copiesInWords, joined } from '../newSession/useIntake';
import { TakeIn } from './TakeIn';

const SCENES: readonly (readonly [CheckScene, string])[] = [
  ['surface', 'Even surface'],
  ['edge', 'Edge or chart'],
];

/** The pictures of a check, by what they show; from them the check is worked out. */
export function CheckDrop({
  rig,
  profile,
  checked,
}: {
  rig: { id: string; camera: string };
  profile: number;
  /** Whether the profile has a check, beside which another can be taken in. */
  checked: boolean;
}) {
  const router = useRouter();
  const [pictures, setPictures] = useState<CheckPicture[]>([]);
  const [progress, setProgress] = useState<UploadProgress | null>(null);
  const [sending, setSending] = useState<Sending | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const queue = useRef(Promise.resolve());
  const latest = useRef(pictures);
  useEffect(() => {
    latest.current = pictures;
  });
  const missing = missingInCheck(pictures);

  /** Pictures dropped while others are on their way are sent after them. */
  function take(scene: CheckScene, files: FileToSend[]) {
    queue.current = queue.current.then(() => send(scene, files));
  }

  async function send(scene: CheckScene, files: FileToSend[]) {
    setProblem(null);
    if (files.length === 0) return;
    const upload = new Sending(files, setProgress);
    setSending(upload);
    try {
      const stored = await upload.done((id) => takeUpload<StoredFile>('/api/files', { upload: id }));
      const before = latest.current;
      const { all, copies } = joined(
        before.map(({ file }) => file),
        files.map(({ path }, i) => ({ path, stored: stored[i] })),
      );
      setPictures(all.map((file) => before.find((one) => one.file === file) ?? { scene, file }));
      if (copies.length > 0) setProblem(copiesInWords(copies));
    } catch (error) {
      setProblem((error as Error).message);
    } finally {
      setSending(null);
      setProgress(null);
    }
  }

  async function workOut() {
    setBusy(true);
    setProblem(null);
    try {
      const title = `Camera check · ${rig.camera || 'rig'}`;
      const files = Object.fromEntries(pictures.map(({ file }) => [file.path, file.stored.sha256]));
      const session = await createSession(sessionOfCheck(pictures, title, rig, profile), files);
      const asked = await measureAction(session).catch(notAnswered);
      if (!asked.ok) throw new Error(asked.error);
      setPictures([]);
      router.push(`/rigs/${rig.id}/check?profile=${profile}&session=${session}`);
    } catch (error) {
      setProblem((error as Error).message);
    } finally {
      setBusy(false);
    }
  }

  return (
    <section aria-label="The pictures">
      <h2>The pictures</h2>
      {SCENES.map(([scene, words]) => (
        <DropZone
          key={scene}
          words={words}
          pictures={pictures.filter((one) => one.scene === scene)}
          onFiles={(files) => take(scene, files)}
          onLeaveOut={(picture) => setPictures((before) => before.filter((one) => one !== picture))}
        />
      ))}
      {sending && (
        <div className="mt-4">
          <SendingPanel
            what="the pictures"
            progress={progress}
            onPause={() => sending.pause()}
            onGoOn={() => sending.goOn()}
            onStop={() => void sending.abort()}
          />
        </div>
      )}
      {problem && (
        <p role="alert" className="text-failure mt-3 whitespace-pre-line">
          {problem}
        </p>
      )}
      {pictures.length > 0 && (
        <ul className="text-ink-2 mt-3 flex flex-col gap-1">
          {missing.map((sentence) => (
            <li key={sentence} className="text-warning">
              {sentence}
            </li>
          ))}
        </ul>
      )}
      <div className="flex gap-2 flex-wrap items-center mt-4">
        <Button
          look="main"
          disabled={busy || pictures.length === 0 || missing.length > 0}
          onClick={() => void workOut()}
        >
          Work out the check
        </Button>
        {!checked && <TakeIn rig={rig.id} profile={profile} />}
      </div>
    </section>
  );
}

/** Where pictures of one scene are dropped or chosen, and those that are there. */
function DropZone({
  words,
  pictures,
  onFiles,
  onLeaveOut,
}: {
  words: string;
  pictures: readonly CheckPicture[];
  onFiles: (files: FileToSend[]) => void;
  onLeaveOut: (picture: CheckPicture) => void;
}) {
  const picker = useRef<Picking>(null);
  const [over, setOver] = useState(false);
  return (
    <section
      aria-label={words}
      className={`mt-3 rounded-sheet border border-dashed px-4 py-4 ${over ? 'border-accent bg-sheet' : 'border-ink-4'}`}
      onDragOver={(event: DragEvent) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event: DragEvent) => {
        event.preventDefault();
        setOver(false);
        void filesOfDrop(event.dataTransfer).then(onFiles);
      }}
    >
      <div className="flex items-center justify-between gap-3 flex-wrap">
        <p>
          <span className="font-semibold">{words}</span>{' '}
          <span className="text-ink-3">
            {pictures.length === 0 ? 'drop its pictures here' : `${pictures.length} pictures`}
          </span>
        </p>
        <Button onClick={() => picker.current?.open()}>
          <ImageUp size={16} aria-hidden /> Choose
        </Button>
      </div>
      {pictures.length > 0 && (
        <ul className="mt-2 grid gap-x-5 sm:grid-cols-2">
          {pictures.map((picture) => (
            <li key={picture.file.path} className="flex items-center justify-between gap-2 min-h-8 text-small">
              <span className="truncate text-ink-2">{picture.file.path}</span>
              <span className="flex items-center gap-1 tabular-nums whitespace-nowrap">
                {exposureOf(picture)}
                <IconButton
                  label={`Leave ${picture.file.path} out`}
                  words="Leave out"
                  onClick={() => onLeaveOut(picture)}
                >
                  <X size={14} aria-hidden />
                </IconButton>
              </span>
            </li>
          ))}
        </ul>
      )}
      <FilePicker
        picking={picker}
        label={`Pictures: ${words}`}
        multiple
        onFiles={(files) => onFiles(files.map((file) => ({ path: file.name, file })))}
      />
    </section>
  );
}

function exposureOf({ file }: CheckPicture): string {
  if (!file.stored.facts.readable) return '–';
  const { shutterSeconds, iso } = factsOf(file).exposure;
  if (shutterSeconds === undefined) return 'no exposure';
  return `${formatShutter(shutterSeconds)}${iso === undefined ? '' : `, ISO ${iso}`}`;
}
