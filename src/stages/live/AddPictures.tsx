'use client';

import { useRef, useState } from 'react';
import { AddButton } from '../footage/AddFiles';
import { SendingPanel } from '../intake/SendingPanel';
import { Sending, takeUpload, type FileToSend, type UploadProgress } from '../intake/upload';

/** Pictures sent from this page, also from a phone: they arrive like those of a watched folder. */
export function AddPictures({ sessionId }: { sessionId: string }) {
  const [progress, setProgress] = useState<{ what: string; state: UploadProgress | null } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const sending = useRef<Sending | null>(null);

  async function add(files: FileToSend[]) {
    setProblem(null);
    const what = `${files.length} ${files.length === 1 ? 'file' : 'files'}`;
    setProgress({ what, state: null });
    try {
      const running = new Sending(files, (state) => setProgress({ what, state }));
      sending.current = running;
      await running.done((upload) => takeUpload(`/api/sessions/${sessionId}/live/pictures`, { upload }));
    } catch (error) {
      setProblem((error as Error).message);
    } finally {
      sending.current = null;
      setProgress(null);
    }
  }

  return (
    <div className="grid gap-2 justify-items-start">
      <AddButton onFiles={(files) => void add(files)} />
      {progress && (
        <SendingPanel
          what={progress.what}
          progress={progress.state}
          onPause={() => sending.current?.pause()}
          onGoOn={() => sending.current?.goOn()}
          onStop={() => void sending.current?.abort()}
        />
      )}
      {problem && (
        <p role="alert" className="text-failure">
          {problem}
        </p>
      )}
    </div>
  );
}
