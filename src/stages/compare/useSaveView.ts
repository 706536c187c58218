import { useRouter } from 'next/navigation';
import { useCallback } from 'react';
import { addPictureAction, newReportAction, reportsAction } from '@/server/reportActions';
import { useTell } from '@/ui/controls/Toasts';
import { saveBlob } from '@/ui/saveBlob';
import { notAnswered } from '@/ui/saving/asked';
import { storeView } from './save';

/** What stands below a saved view. */
export interface Wished {
  figures: boolean;
  disclosure: boolean;
}

/** Where a view can go: a file, or a report. */
export interface SavingView {
  toFile: (wished: Wished) => void;
  /** @param report its id; a new report of this session where left out */
  toReport: (wished: Wished, report?: string) => void;
  /** Reports that there are, last changed first. Rejects where the server doesn't answer. */
  reports: () => Promise<{ id: string; title: string }[]>;
}

/** Saves the view of Compare. @param draw gives `null` while nothing is shown */
export function useSaveView(
  sessionId: string,
  draw: (wished: Wished) => Promise<{ picture: OffscreenCanvas; caption: string } | null>,
): SavingView {
  const tell = useTell();
  const router = useRouter();
  const toFile = (wished: Wished) =>
    void draw(wished).then(async (drawn) => {
      if (drawn) saveBlob(await drawn.picture.convertToBlob({ type: 'image/png' }), 'compare.png');
    });
  const toReport = (wished: Wished, report?: string) =>
    void (async () => {
      const drawn = await draw(wished);
      if (!drawn) return;
      const sha256 = await storeView(drawn.picture);
      const place = report === undefined ? await newReportAction([sessionId]).catch(notAnswered) : { ok: true as const, id: report }; // prettier-ignore
      const put = place.ok ? await addPictureAction(place.id, { sha256, caption: drawn.caption.slice(0, 500) }).catch(notAnswered) : place; // prettier-ignore
      if (!place.ok || !put.ok)
        return tell({ words: place.ok ? (put as { error: string }).error : place.error, bad: true });
      tell({
        words: 'The view is in the report.',
        action: { words: 'Open the report', run: () => router.push(`/reports/${place.id}`) },
      });
    })().catch((error: Error) =>
      tell({ words: error instanceof TypeError ? 'No connection to the server.' : error.message, bad: true }),
    );
  return { toFile, toReport, reports: useCallback(() => reportsAction(), []) };
}
