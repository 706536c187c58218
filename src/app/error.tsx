'use client';

import { PageFailed } from '@/ui/PageFailed';

/** For every page that has none of its own. */
export default function ErrorPage({ reset }: { error: Error; reset: () => void }) {
  return <PageFailed onAgain={reset} />;
}
