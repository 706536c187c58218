import type { Metadata } from 'next';
import { cookies, headers } from 'next/headers';
import type { ReactNode } from 'react';
import { preload } from 'react-dom';
import './globals.css';
import { ChosenRoom } from '@/ui/controls/room';
import { ROOM_COOKIE, roomNamed } from '@/ui/controls/roomCookie';
import { ToastRoom } from '@/ui/controls/Toasts';
import { TooltipRoom } from '@/ui/controls/Tooltip';
import { recordEarly } from '@/ui/early/record';

// Scripts that the framework writes into a page carry the answer’s own nonce: no page is made before it is asked for.
export const dynamic = 'force-dynamic';

export const metadata: Metadata = {
  title: { default: 'Aurora Glade', template: '%s · Aurora Glade' },
  description: 'Measures camera filters from comparison pictures.',
};

/** The type's own file, asked for with the page and not only once its styles are read. */
const TYPE = new URL(
  '../../node_modules/@fontsource-variable/archivo/files/archivo-latin-standard-normal.woff2',
  import.meta.url,
).pathname;

export default async function RootLayout({ children }: { children: ReactNode }) {
  preload(TYPE, { as: 'font', type: 'font/woff2', crossOrigin: 'anonymous' });
  const room = roomNamed((await cookies()).get(ROOM_COOKIE)?.value);
  const nonce = /'nonce-([^']+)'/.exec((await headers()).get('content-security-policy') ?? '')?.[1];
  return (
    <html lang="en" data-room={room}>
      <body>
        {/* Browsers hide a nonce from the page once it is read, so what was sent and what is found differ. */}
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: `(${recordEarly})()` }} />
        <a
          href="#main"
          className="sr-only focus:not-sr-only focus:absolute focus:left-4 focus:top-2 focus:z-10 bg-accent text-on-accent px-3 py-1 rounded"
        >
          Skip to the content
        </a>
        <ChosenRoom first={room}>
          <TooltipRoom>
            <ToastRoom>{children}</ToastRoom>
          </TooltipRoom>
        </ChosenRoom>
      </body>
    </html>
  );
}
