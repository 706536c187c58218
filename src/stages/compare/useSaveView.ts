import { useRouter } from 'next/navigation';
import { addPictureAction, newReportAction } from '@/server/reportActions';
import { useTell } from '@/ui/controls/Toasts';
import { saveBlob } from '@/ui/saveBlob';
import { NO_LINE_NOW, notAnswered } from '@/ui/saving/asked';
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
}

const LONGEST_CAPTION = 500;

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
  async function intoReport(wished: Wished, report: string | undefined) {
    const drawn = await draw(wished);
    if (!drawn) return;
    const sha256 = await storeView(drawn.picture);
    const place =
      report === undefined ? await newReportAction([sessionId]).catch(notAnswered) : { ok: true as const, id: report };
    if (!place.ok) throw new Error(place.error);
    const put = await addPictureAction(place.id, { sha256, caption: drawn.caption.slice(0, LONGEST_CAPTION) }).catch(
      notAnswered,
    );
    if (!put.ok) throw new Error(put.error);
    tell({
      words: 'The view is in the report.',
      action: { words: 'Open the report', run: () => router.push(`/reports/${place.id}`) },
    });
  }
  const toReport = (wished: Wished, report?: string) =>
    void intoReport(wished, report).catch((error: Error) =>
      tell({ words: error instanceof TypeError ? NO_LINE_NOW : error.message, bad: true }),
    );
  return { toFile, toReport };
}
