import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import './globals.css';
import { ToastRoom } from '@/ui/controls/Toasts';
import { TooltipRoom } from '@/ui/controls/Tooltip';

// Scripts that the framework writes into a page carry the answer’s own nonce: no page is made before it is asked for.
export const dynamic = 'force-dynamic';

export const metadata: Metadata = {
  title: { default: 'Aurora Glade', template: '%s · Aurora Glade' },
  description: 'Measures camera filters from comparison pictures.',
};

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>
        <a
          href="#main"
          className="sr-only focus:not-sr-only focus:absolute focus:left-4 focus:top-2 focus:z-10 bg-accent text-on-accent px-3 py-1 rounded"
        >
          Skip to the content
        </a>
        <TooltipRoom>
          <ToastRoom>{children}</ToastRoom>
        </TooltipRoom>
      </body>
    </html>
  );
}
