'use client';

import { PageFailed } from '@/ui/PageFailed';

/** A stage of a session that can't be shown; the others may well be. */
export default function SessionError({ reset }: { error: Error; reset: () => void }) {
  return <PageFailed onAgain={reset} />;
}
