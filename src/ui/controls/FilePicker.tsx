'use client';

import { useImperativeHandle, useRef, type Ref } from 'react';

/** Opens the browser's own window for choosing files. */
export interface Picking {
  open: () => void;
}

/** Files of the computer; a button elsewhere opens it. */
export function FilePicker({
  picking,
  label,
  accept,
  multiple = false,
  folder = false,
  onFiles,
}: {
  picking: Ref<Picking>;
  label: string;
  /** Endings or kinds that are offered. */
  accept?: string;
  multiple?: boolean;
  /** A whole folder in place of files. */
  folder?: boolean;
  onFiles: (files: File[]) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  useImperativeHandle(picking, () => ({ open: () => input.current?.click() }), []);
  return (
    <input
      ref={input}
      type="file"
      hidden
      aria-label={label}
      accept={accept}
      multiple={multiple || folder}
      {...(folder ? { webkitdirectory: '' } : {})}
      onChange={({ target }) => {
        const files = [...(target.files ?? [])];
        // Emptied, so that the same file can be chosen again.
        target.value = '';
        if (files.length > 0) onFiles(files);
      }}
    />
  );
}
