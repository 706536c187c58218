/** Sends files to the server, a few at a time, telling how far it is. */
import type { StoredFileView } from './types';

export interface UploadProgress {
  sentBytes: number;
  totalBytes: number;
}

/** One file as a raw body. Rejects with a sentence. */
export function sendFile<T>(url: string, file: File, onBytes: (sent: number) => void): Promise<T> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', url);
    request.responseType = 'json';
    request.upload.onprogress = (event) => onBytes(event.loaded);
    request.onload = () => {
      const answer = request.response as (T & { error?: string }) | null;
      if (request.status === 200 && answer) resolve(answer);
      else reject(new Error(answer?.error ?? `The server answered ${request.status}; drop the file again.`));
    };
    request.onerror = () => reject(new Error('The connection to the server broke; drop the file again.'));
    request.send(file);
  });
}

/** Sends many files, three at a time. Results in the order of the files. */
export async function sendFiles(
  files: readonly { path: string; file: File }[],
  onProgress: (progress: UploadProgress) => void,
): Promise<StoredFileView[]> {
  const sent = new Array<number>(files.length).fill(0);
  const totalBytes = files.reduce((sum, one) => sum + one.file.size, 0);
  const results = new Array<StoredFileView>(files.length);
  let next = 0;
  const run = async () => {
    while (next < files.length) {
      const index = next++;
      const { path, file } = files[index];
      results[index] = await sendFile<StoredFileView>(`/api/files?name=${encodeURIComponent(path)}`, file, (bytes) => {
        sent[index] = Math.min(bytes, file.size);
        onProgress({ sentBytes: sent.reduce((sum, one) => sum + one, 0), totalBytes });
      });
    }
  };
  await Promise.all([run(), run(), run()]);
  return results;
}

/** Files of a drop, folders opened; paths are relative to what was dropped. */
export async function filesOfDrop(transfer: DataTransfer): Promise<{ path: string; file: File }[]> {
  const entries = [...transfer.items]
    .map((item) => item.webkitGetAsEntry?.())
    .filter((entry) => entry !== null && entry !== undefined);
  if (entries.length === 0) return [...transfer.files].map((file) => ({ path: file.name, file }));
  const found: { path: string; file: File }[] = [];
  for (const entry of entries) await walk(entry, '', found);
  return found;
}

async function walk(entry: FileSystemEntry, prefix: string, found: { path: string; file: File }[]): Promise<void> {
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    found.push({ path: prefix + entry.name, file });
    return;
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  // A reader gives at most a hundred entries a call.
  for (;;) {
    const batch = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (batch.length === 0) return;
    for (const child of batch) await walk(child, `${prefix}${entry.name}/`, found);
  }
}
