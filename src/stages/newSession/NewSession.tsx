'use client';

import { FolderUp, ImageUp } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useRef, useState, type DragEvent } from 'react';
import { Button } from '@/ui/Button';
import { Draft } from './Draft';
import { SendingPanel } from '../intake/SendingPanel';
import type { ArrivedFile, StoredFile } from '@/core/sitting/intake/arrived';
import { filesOfDrop, Sending, takeUpload, type FileToSend, type UploadProgress } from '../intake/upload';

const SESSION_FILE = 'session.glade.json';
const PICTURE = /\.(tiff?|png|jpe?g|mp4|mov|m4v|mkv|dng|raw|cr2|cr3|nef|arw|raf|orf|rw2|pef|srw)$/i;
const TELEMETRY = /\.srt$/i;

type Phase =
  | { name: 'waiting' }
  | { name: 'sending'; progress: UploadProgress | null; what: string }
  | { name: 'draft'; pictures: ArrivedFile[] };

/** Drop a bundle, a session's folder, or just pictures; the rest is asked for. */
export function NewSession({ inbox }: { inbox: ArrivedFile[] }) {
  const router = useRouter();
  const [phase, setPhase] = useState<Phase>({ name: 'waiting' });
  const [waiting, setWaiting] = useState(inbox);
  const [problem, setProblem] = useState<string | null>(null);
  const [over, setOver] = useState(false);
  const filePicker = useRef<HTMLInputElement>(null);
  const folderPicker = useRef<HTMLInputElement>(null);
  const sending = useRef<Sending | null>(null);

  async function take(files: FileToSend[]) {
    setProblem(null);
    if (files.length === 0) return;
    const before = phase;
    try {
      const bundle = files.find(({ path }) => /\.zip$/i.test(path));
      const description = files.find(({ path }) => path === SESSION_FILE || path.endsWith(`/${SESSION_FILE}`));
      if (bundle) await takeBundle(bundle);
      else if (description) await takeFolder(files, description);
      else await takePictures(files.filter(({ path }) => PICTURE.test(path) || TELEMETRY.test(path)));
    } catch (error) {
      setPhase(before);
      setProblem((error as Error).message);
      if (before.name === 'waiting') await lookIntoInbox();
    }
  }

  async function takeBundle(bundle: FileToSend) {
    const [{ id }] = await send([bundle], bundle.file.name, (upload) =>
      takeUpload<{ id: string }>('/api/bundles', { upload }),
    );
    router.push(`/sessions/${id}/regions`);
  }

  async function takeFolder(files: FileToSend[], description: FileToSend) {
    const root = description.path.slice(0, -SESSION_FILE.length);
    let document: unknown;
    try {
      document = JSON.parse(await description.file.text());
    } catch {
      throw new Error(`${description.path} isn’t JSON: is it complete?`);
    }
    const media = files.filter((one) => one !== description && one.path.startsWith(root));
    const stored = await send(media, 'the session’s pictures', (upload) =>
      takeUpload<StoredFile>('/api/files', { upload }),
    );
    const byPath = Object.fromEntries(media.map(({ path }, i) => [path.slice(root.length), stored[i].sha256]));
    const response = await fetch('/api/sessions', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ document, files: byPath }),
    });
    const answer = (await response.json()) as { id?: string; error?: string };
    if (!answer.id) throw new Error(answer.error ?? 'The session could not be made.');
    router.push(`/sessions/${answer.id}/regions`);
  }

  async function takePictures(pictures: FileToSend[]) {
    if (!pictures.some(({ path }) => PICTURE.test(path)))
      throw new Error(
        'Nothing there that can be read: drop TIFF, PNG or JPEG pictures, MP4, MOV or MKV clips, a session’s folder or a .glade.zip.',
      );
    const before = phase.name === 'draft' ? phase.pictures : [];
    const stored = await send(pictures, `${pictures.length} ${pictures.length === 1 ? 'file' : 'files'}`, (upload) =>
      takeUpload<StoredFile>('/api/files', { upload, waits: true }),
    );
    addToDraft(
      before,
      pictures.map(({ path }, i) => ({ path, stored: stored[i] })),
    );
  }

  function addToDraft(before: ArrivedFile[], files: ArrivedFile[]) {
    const pictures = [...before];
    for (const { path, stored } of files) {
      if (pictures.some((known) => known.stored.sha256 === stored.sha256 && known.path === path)) continue;
      // Cards count their pictures anew: two files may bear one name.
      let free = path;
      for (let n = 2; pictures.some((known) => known.path === free); n++) free = path.replace(/(\.[^.]*)?$/, `-${n}$1`);
      pictures.push({ path: free, stored });
    }
    setPhase({ name: 'draft', pictures });
  }

  async function send<T>(files: FileToSend[], what: string, last: (upload: string) => Promise<T>): Promise<T[]> {
    setPhase({ name: 'sending', what, progress: null });
    const running = new Sending(files, (progress) => setPhase({ name: 'sending', what, progress }));
    sending.current = running;
    try {
      return await running.done(last);
    } finally {
      sending.current = null;
    }
  }

  async function lookIntoInbox() {
    const answer = await fetch('/api/inbox').catch(() => null);
    if (answer?.ok) setWaiting(((await answer.json()) as { files: ArrivedFile[] }).files);
  }

  async function putAway(files: ArrivedFile[]) {
    const body = JSON.stringify({ sha256: files.map(({ stored }) => stored.sha256) });
    await fetch('/api/inbox', { method: 'DELETE', headers: { 'content-type': 'application/json' }, body }).catch(
      () => undefined,
    );
  }

  const drop = {
    onDragOver: (event: DragEvent) => {
      event.preventDefault();
      setOver(true);
    },
    onDragLeave: () => setOver(false),
    onDrop: (event: DragEvent) => {
      event.preventDefault();
      setOver(false);
      void filesOfDrop(event.dataTransfer).then(take);
    },
  };
  const picked = (list: FileList | null) =>
    void take([...(list ?? [])].map((file) => ({ path: file.webkitRelativePath || file.name, file })));

  return (
    <main id="main" className="w-full max-w-[1244px] mx-auto px-[18px] py-7" {...drop}>
      {phase.name !== 'draft' && (
        <>
          <h1>New session</h1>
          <p className="text-ink-2 text-[15px] mt-1 max-w-[70ch]">
            Drop a bench’s pictures, bare and with each filter. Exposures and times are read from the files, filters
            from their names; only what is missing is asked for.
          </p>
          <section
            aria-label="Drop files here"
            className={`mt-5 rounded-[10px] border border-dashed px-6 py-14 text-center ${over ? 'border-accent bg-sheet' : 'border-ink-4'}`}
          >
            {phase.name === 'sending' ? (
              <SendingPanel
                progress={phase.progress}
                what={phase.what}
                onPause={() => sending.current?.pause()}
                onGoOn={() => sending.current?.goOn()}
                onStop={() => void sending.current?.abort()}
              />
            ) : (
              <>
                <ImageUp size={30} aria-hidden className="mx-auto text-ink-3" />
                <p className="text-[17px] font-[650] mt-3">Drop pictures, clips, a session’s folder or a .glade.zip</p>
                <p className="text-ink-2 mt-1">
                  TIFF, PNG and JPEG at 8 or 16 bits, raw stills (DNG and what LibRaw reads); MP4, MOV and MKV clips
                  with their .srt. Nothing leaves this machine.
                </p>
                <div className="flex gap-2 justify-center mt-5 flex-wrap">
                  <Button look="main" onClick={() => filePicker.current?.click()}>
                    <ImageUp size={16} aria-hidden /> Choose files
                  </Button>
                  <Button onClick={() => folderPicker.current?.click()}>
                    <FolderUp size={16} aria-hidden /> Choose a folder
                  </Button>
                </div>
              </>
            )}
          </section>
          {phase.name === 'waiting' && waiting.length > 0 && (
            <section
              aria-label="Files that wait"
              className="mt-5 rounded-[10px] bg-sheet px-5 py-4 flex items-center justify-between gap-4 flex-wrap"
            >
              <div>
                <h2>
                  {waiting.length} {waiting.length === 1 ? 'file waits' : 'files wait'} to be laid on a session
                </h2>
                <p className="text-ink-2 mt-0.5">
                  {waiting
                    .slice(0, 3)
                    .map((one) => one.path)
                    .join(', ')}
                  {waiting.length > 3 && ` and ${waiting.length - 3} more`}
                </p>
              </div>
              <div className="flex gap-2">
                <Button look="main" onClick={() => addToDraft([], waiting)}>
                  Go on with them
                </Button>
                <Button
                  look="quiet"
                  onClick={() => {
                    void putAway(waiting);
                    setWaiting([]);
                  }}
                >
                  Put them away
                </Button>
              </div>
            </section>
          )}
        </>
      )}
      {problem && (
        <p role="alert" className="text-failure mt-4 whitespace-pre-line">
          {problem}
        </p>
      )}
      {phase.name === 'draft' && (
        <Draft
          pictures={phase.pictures}
          onMore={() => filePicker.current?.click()}
          onLeaveOut={(file) => {
            void putAway([file]);
            setPhase({ name: 'draft', pictures: phase.pictures.filter((one) => one !== file) });
          }}
        />
      )}
      <input
        ref={filePicker}
        type="file"
        multiple
        className="hidden"
        aria-label="Files"
        onChange={(event) => picked(event.target.files)}
      />
      <input
        ref={folderPicker}
        type="file"
        multiple
        className="hidden"
        aria-label="Folder"
        {...{ webkitdirectory: '' }}
        onChange={(event) => picked(event.target.files)}
      />
    </main>
  );
}
