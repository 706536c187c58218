import { Button, buttonClass } from './Button';

/** A page that could not be made: what is safe, and what to do. */
export function PageFailed({ onAgain }: { onAgain: () => void }) {
  return (
    <main id="main" className="max-w-[680px] mx-auto px-[18px] py-16">
      <h1>This page could not be made</h1>
      <p className="text-ink-2 mt-2 mb-5">
        The server ran into a problem; var/web.log tells which. Your sessions and pictures are safe. If the database is
        stopped, start everything again with ./glade up.
      </p>
      <div className="flex gap-2">
        <Button look="main" onClick={onAgain}>
          Try again
        </Button>
        {/* No page of ours may be standing: the browser itself goes there. */}
        {/* eslint-disable-next-line @next/next/no-html-link-for-pages */}
        <a href="/" className={buttonClass('plain')}>
          All sessions
        </a>
      </div>
    </main>
  );
}
