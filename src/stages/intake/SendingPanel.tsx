'use client';

import { Pause, Play, Square } from 'lucide-react';
import { Button } from '@/ui/Button';
import { Progress } from '@/ui/controls/Progress';
import type { UploadProgress } from './upload';

/** How far an upload is, how fast, how long it still takes; it can be paused and stopped. */
export function SendingPanel({
  what,
  progress,
  onPause,
  onGoOn,
  onStop,
}: {
  what: string;
  /** `null` until anything has moved. */
  progress: UploadProgress | null;
  onPause: () => void;
  onGoOn: () => void;
  onStop: () => void;
}) {
  if (!progress) return <p className="font-semibold">Taking in {what} …</p>;
  const { sentBytes, totalBytes, rate, paused, filesDone, files } = progress;
  const left = rate !== null && rate > 0 ? (totalBytes - sentBytes) / rate : null;
  const reading = sentBytes >= totalBytes && filesDone < files;
  return (
    <div className="max-w-[460px] mx-auto">
      <div role="status">
        <p className="font-semibold">
          {paused ? `Paused: ${what}` : reading ? `Reading ${what} …` : `Taking in ${what} …`}
        </p>
        <Progress label={what} done={sentBytes} total={totalBytes} className="mt-3" />
      </div>
      <p className="text-ink-3 mt-2 tabular-nums flex justify-between gap-3 flex-wrap">
        <span>
          {size(sentBytes)} of {size(totalBytes)}, {filesDone} of {files} {files === 1 ? 'file' : 'files'} done
        </span>
        <span>
          {!paused && rate !== null && `${size(rate)}/s`}
          {!paused && left !== null && left > 1 && !reading && `, ${time(left)} left`}
        </span>
      </p>
      <div className="flex gap-2 justify-center mt-4">
        {paused ? (
          <Button look="main" onClick={onGoOn}>
            <Play size={16} aria-hidden /> Go on
          </Button>
        ) : (
          <Button onClick={onPause}>
            <Pause size={16} aria-hidden /> Pause
          </Button>
        )}
        <Button look="quiet" onClick={onStop}>
          <Square size={14} aria-hidden /> Stop
        </Button>
      </div>
    </div>
  );
}

function size(bytes: number): string {
  return bytes >= 1e9 ? `${(bytes / 1e9).toFixed(2)} GB` : `${(bytes / 1e6).toFixed(1)} MB`;
}

function time(seconds: number): string {
  if (seconds < 90) return `${Math.ceil(seconds)} s`;
  const minutes = Math.ceil(seconds / 60);
  return minutes < 90 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}
