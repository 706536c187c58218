import type { ClipLook, Look } from '@/core/look';
import type { PictureFacts } from '@/core/source';
import type { Cue } from '@/core/telemetry';

/** What the server says of a file that it took in. */
export interface StoredFileView {
  sha256: string;
  bytes: number;
  facts:
    | { readable: true; picture: PictureFacts; look?: Look | ClipLook }
    | { readable: false; reason: string; telemetry?: Cue[] };
}

/** A file that has arrived, with what is known of it. */
export interface ArrivedFile {
  path: string;
  stored: StoredFileView;
}
