'use client';

import './globals.css';
import { PageFailed } from '@/ui/PageFailed';

/** Where not even the frame around the pages can be made: it stands alone. */
export default function GlobalError({ reset }: { error: Error; reset: () => void }) {
  return (
    <html lang="en">
      <body>
        <PageFailed onAgain={reset} />
      </body>
    </html>
  );
}
