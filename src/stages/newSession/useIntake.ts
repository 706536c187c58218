import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import type { ArrivedFile, StoredFile } from '@/core/sitting/intake/arrived';
import { Sending, takeUpload, type FileToSend, type UploadProgress } from '../intake/upload';
import { createSession } from './createSession';

const SESSION_FILE = 'session.glade.json';
const PICTURE =
  /\.(tiff?|png|jpe?g|webp|hei[cf]|hif|avif|jxl|mp4|mov|m4v|mkv|dng|raw|cr2|cr3|nef|arw|raf|orf|rw2|pef|srw)$/i;
const TELEMETRY = /\.srt$/i;

type Phase =
  | { name: 'waiting' }
  | { name: 'sending'; progress: UploadProgress | null; what: string }
  | { name: 'draft'; pictures: ArrivedFile[] };

/** Files on their way in: a bundle or a session's folder becomes a session at once, loose pictures a draft. */
export function useIntake(inbox: ArrivedFile[]) {
  const router = useRouter();
  const [phase, setPhase] = useState<Phase>({ name: 'waiting' });
  const [waiting, setWaiting] = useState(inbox);
  const [problem, setProblem] = useState<string | null>(null);
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
    router.push(`/sessions/${await createSession(document, byPath)}/regions`);
  }

  async function takePictures(pictures: FileToSend[]) {
    if (!pictures.some(({ path }) => PICTURE.test(path)))
      throw new Error(
        'Nothing there that can be read: drop TIFF, PNG, JPEG, WebP, HEIC, AVIF or JPEG XL pictures, MP4, MOV or MKV clips, a session’s folder or a .glade.zip.',
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

  function addToDraft(before: readonly ArrivedFile[], files: readonly ArrivedFile[]) {
    const { all, copies } = joined(before, files);
    setPhase({ name: 'draft', pictures: all });
    if (copies.length > 0) setProblem(copiesInWords(copies));
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

  /** Files that wait no longer; they come back by themselves where there is no line. */
  async function putAway(files: readonly ArrivedFile[]) {
    const body = JSON.stringify({ sha256: files.map(({ stored }) => stored.sha256) });
    await fetch('/api/inbox', { method: 'DELETE', headers: { 'content-type': 'application/json' }, body }).catch(
      () => undefined,
    );
  }

  return {
    phase,
    problem,
    waiting,
    take,
    sending,
    goOnWithWaiting: () => addToDraft([], waiting),
    putWaitingAway: () => {
      void putAway(waiting);
      setWaiting([]);
    },
    leaveOut: (file: ArrivedFile) => {
      void putAway([file]);
      if (phase.name === 'draft') setPhase({ name: 'draft', pictures: phase.pictures.filter((one) => one !== file) });
    },
  };
}

/** A file that is another one once more, under another name. */
interface Copy {
  path: string;
  of: string;
}

/**
 * More files beside those that are there: each picture once, and each file under a name of its own. A copy would be laid as a repeat, which
 * it isn't; telemetry may well be alike.
 */
export function joined(
  before: readonly ArrivedFile[],
  files: readonly ArrivedFile[],
): { all: ArrivedFile[]; copies: Copy[] } {
  const all = [...before];
  const copies: Copy[] = [];
  for (const { path, stored } of files) {
    const same = all.filter((known) => known.stored.sha256 === stored.sha256);
    if (same.some((known) => known.path === path)) continue;
    // One that is refused, by its wrong ending say, is left out itself: what it holds is there only now.
    const original = same.find((known) => known.stored.facts.readable);
    if (original && stored.facts.readable) {
      copies.push({ path, of: original.path });
      continue;
    }
    // Cards count their pictures anew: two files may bear one name.
    let free = path;
    for (let n = 2; all.some((known) => known.path === free); n++) free = path.replace(/(\.[^.]*)?$/, `-${n}$1`);
    all.push({ path: free, stored });
  }
  return { all, copies };
}

const NAMED_COPIES = 3;

/** What was left out, as a sentence. */
export function copiesInWords(copies: readonly Copy[]): string {
  const named = copies.slice(0, NAMED_COPIES).map(({ path, of }) => `${path} is the same picture as ${of}`);
  const more = copies.length > NAMED_COPIES ? `, and so on for ${copies.length - NAMED_COPIES} more` : '';
  return `${named.join('; ')}${more}. A copy tells nothing new, so it is left out.`;
}
