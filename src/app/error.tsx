'use client';

import { Button } from '@/ui/Button';

export default function ErrorPage({ reset }: { error: Error; reset: () => void }) {
  return (
    <main id="main" className="max-w-[680px] mx-auto px-[18px] py-16">
      <h1>This page could not be made</h1>
      <p className="text-ink-2 mt-2 mb-5">
        The server ran into a problem; var/web.log tells which. Your sessions and pictures are safe. If the database is
        stopped, start everything again with ./glade up.
      </p>
      <Button look="main" onClick={reset}>
        Try again
      </Button>
    </main>
  );
}
