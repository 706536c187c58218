import type { Response } from '@/core/session/schema';

/** Address of a view of a stored picture; an empty one where the file is missing. */
export function pictureUrl(sha256: string | undefined, size: 320 | 1600, response: Response): string | undefined {
  if (!sha256) return undefined;
  return `/api/files/${sha256}?size=${size}&response=${encodeURIComponent(JSON.stringify(response))}`;
}
