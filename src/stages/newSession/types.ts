import type { PictureFacts } from '@/core/source';

/** What the server says of a file that it took in. */
export interface StoredFileView {
  sha256: string;
  bytes: number;
  facts: { readable: true; picture: PictureFacts } | { readable: false; reason: string };
}

/** A dropped picture with what is known of it. */
export interface DroppedPicture {
  path: string;
  stored: StoredFileView;
}
