import { FolderUp, ImageUp } from 'lucide-react';
import { Button } from '@/ui/Button';
import { SendingPanel } from '../intake/SendingPanel';
import type { UploadProgress } from '../intake/upload';

/** Where files are dropped or chosen, and how far they have come. */
export function DropPlace({
  over,
  sending,
  onFiles,
  onFolder,
  onPause,
  onGoOn,
  onStop,
}: {
  /** Whether files are held over it. */
  over: boolean;
  sending: { what: string; progress: UploadProgress | null } | null;
  onFiles: () => void;
  onFolder: () => void;
  onPause: () => void;
  onGoOn: () => void;
  onStop: () => void;
}) {
  return (
    <section
      aria-label="Drop files here"
      className={`mt-5 rounded-sheet border border-dashed px-6 py-14 text-center ${over ? 'border-accent bg-sheet' : 'border-ink-4'}`}
    >
      {sending ? (
        <SendingPanel {...sending} onPause={onPause} onGoOn={onGoOn} onStop={onStop} />
      ) : (
        <>
          <ImageUp size={30} aria-hidden className="mx-auto text-ink-3" />
          <p className="text-title font-strong mt-3">Drop pictures, clips, a session’s folder or a .glade.zip</p>
          <p className="text-ink-2 mt-1">
            TIFF, PNG, JPEG, WebP, HEIC, AVIF and JPEG XL, raw stills (DNG and what LibRaw reads); MP4, MOV and MKV
            clips with their .srt. Nothing leaves this machine.
          </p>
          <div className="flex gap-2 justify-center mt-5 flex-wrap">
            <Button look="main" onClick={onFiles}>
              <ImageUp size={16} aria-hidden /> Choose files
            </Button>
            <Button onClick={onFolder}>
              <FolderUp size={16} aria-hidden /> Choose a folder
            </Button>
          </div>
        </>
      )}
    </section>
  );
}
