import type { ReactNode } from 'react';

// Sessions change under their pages; nothing of them is cached.
export const dynamic = 'force-dynamic';

export default function SessionLayout({ children }: { children: ReactNode }) {
  return children;
}
