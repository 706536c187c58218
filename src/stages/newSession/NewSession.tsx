'use client';

import { FolderUp, ImageUp } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useRef, useState, type DragEvent } from 'react';
import { Button } from '@/ui/Button';
import { Draft } from './Draft';
import type { DroppedPicture } from './types';
import { filesOfDrop, sendFile, sendFiles, type UploadProgress } from './upload';

const SESSION_FILE = 'session.glade.json';
const PICTURE = /\.(tiff?|png|jpe?g|mp4|mov|m4v|mkv|dng|raw|cr2|cr3|nef|arw|raf|orf|rw2|pef|srw)$/i;
const TELEMETRY = /\.srt$/i;

type Phase =
  | { name: 'waiting' }
  | { name: 'sending'; progress: UploadProgress; what: string }
  | { name: 'draft'; pictures: DroppedPicture[] };

/** Drop a bundle, a session's folder, or just pictures; the rest is asked for. */
export function NewSession() {
  const router = useRouter();
  const [phase, setPhase] = useState<Phase>({ name: 'waiting' });
  const [problem, setProblem] = useState<string | null>(null);
  const [over, setOver] = useState(false);
  const filePicker = useRef<HTMLInputElement>(null);
  const folderPicker = useRef<HTMLInputElement>(null);

  async function take(files: { path: string; file: File }[]) {
    setProblem(null);
    if (files.length === 0) return;
    try {
      const bundle = files.find(({ path }) => /\.zip$/i.test(path));
      const description = files.find(({ path }) => path === SESSION_FILE || path.endsWith(`/${SESSION_FILE}`));
      if (bundle) await takeBundle(bundle.file);
      else if (description) await takeFolder(files, description);
      else await takePictures(files.filter(({ path }) => PICTURE.test(path) || TELEMETRY.test(path)));
    } catch (error) {
      setPhase((now) => (now.name === 'sending' ? { name: 'waiting' } : now));
      setProblem((error as Error).message);
    }
  }

  async function takeBundle(file: File) {
    const show = (sentBytes: number) =>
      setPhase({ name: 'sending', what: file.name, progress: { sentBytes, totalBytes: file.size } });
    show(0);
    const { id } = await sendFile<{ id: string }>(`/api/bundles?name=${encodeURIComponent(file.name)}`, file, show);
    router.push(`/sessions/${id}/regions`);
  }

  async function takeFolder(files: { path: string; file: File }[], description: { path: string; file: File }) {
    const root = description.path.slice(0, -SESSION_FILE.length);
    let document: unknown;
    try {
      document = JSON.parse(await description.file.text());
    } catch {
      throw new Error(`${description.path} isn’t JSON: is it complete?`);
    }
    const media = files.filter((one) => one !== description && one.path.startsWith(root));
    const stored = await send(media, 'the session’s pictures');
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

  async function takePictures(pictures: { path: string; file: File }[]) {
    if (!pictures.some(({ path }) => PICTURE.test(path)))
      throw new Error(
        'Nothing there that can be read: drop TIFF, PNG or JPEG pictures, MP4, MOV or MKV clips, a session’s folder or a .glade.zip.',
      );
    const before = phase.name === 'draft' ? phase.pictures : [];
    const stored = await send(pictures, `${pictures.length} ${pictures.length === 1 ? 'file' : 'files'}`);
    const dropped = pictures.map(({ path }, i) => ({ path, stored: stored[i] }));
    const added = dropped.filter(
      (one) => !before.some((known) => known.stored.sha256 === one.stored.sha256 && known.path === one.path),
    );
    setPhase({ name: 'draft', pictures: [...before, ...added] });
  }

  async function send(files: { path: string; file: File }[], what: string) {
    return sendFiles(files, (progress) => setPhase({ name: 'sending', what, progress }));
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
              <Sending progress={phase.progress} what={phase.what} />
            ) : (
              <>
                <ImageUp size={30} aria-hidden className="mx-auto text-ink-3" />
                <p className="text-[17px] font-[650] mt-3">Drop pictures, clips, a session’s folder or a .glade.zip</p>
                <p className="text-ink-2 mt-1">
                  TIFF, PNG and JPEG at 8 or 16 bits, raw stills; MP4, MOV and MKV clips with their .srt. Nothing leaves
                  this machine.
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
        </>
      )}
      {problem && (
        <p role="alert" className="text-failure mt-4 whitespace-pre-line">
          {problem}
        </p>
      )}
      {phase.name === 'draft' && <Draft pictures={phase.pictures} onMore={() => filePicker.current?.click()} />}
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

function Sending({ progress, what }: { progress: UploadProgress; what: string }) {
  const share = progress.totalBytes > 0 ? progress.sentBytes / progress.totalBytes : 0;
  return (
    <div role="status" className="max-w-[420px] mx-auto">
      <p className="font-semibold">Taking in {what} …</p>
      <div className="h-2 rounded bg-well mt-3 overflow-hidden">
        <div className="h-full bg-accent" style={{ width: `${100 * share}%` }} />
      </div>
      <p className="text-ink-3 mt-2">
        {megabytes(progress.sentBytes)} of {megabytes(progress.totalBytes)} MB
      </p>
    </div>
  );
}

function megabytes(bytes: number): string {
  return (bytes / 1e6).toFixed(1);
}
