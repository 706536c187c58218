import { PaperRoom } from '@/ui/controls/room';

/** A page for the field stands alone: white from the first moment on. */
export default function Loading() {
  return (
    <PaperRoom className="min-h-dvh px-4 pt-3">
      <p role="status" className="text-ink-3">
        Coming …
      </p>
    </PaperRoom>
  );
}
