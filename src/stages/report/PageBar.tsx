import { Download, Link2, Lock } from 'lucide-react';
import { endLinkAction, makeLinkAction, type LinkView } from '@/server/reportActions';
import { Button, buttonClass } from '@/ui/Button';
import { Select } from '@/ui/controls/Select';
import { useTell } from '@/ui/controls/Toasts';
import { notAnswered } from '@/ui/saving/asked';
import type { FrozenMark } from './html';

/** What is done with the page: frozen, taken away, linked; and which version is shown. */
export function PageBar({
  id,
  link,
  versions,
  shown,
  onShown,
  onFreeze,
  onLink,
}: {
  id: string;
  link: LinkView | null;
  versions: readonly FrozenMark[];
  /** Number of a frozen version; `null` for the page as it is now. */
  shown: number | null;
  onShown: (version: number | null) => void;
  onFreeze: () => void;
  onLink: (link: LinkView | null) => void;
}) {
  const tell = useTell();
  const version = shown === null ? '' : `?version=${shown}`;
  const save = shown === null ? '?save' : `?version=${shown}&save`;
  async function makeLink() {
    const made = await makeLinkAction(id).catch(notAnswered);
    if (made.ok) onLink(made.link);
    else tell({ words: made.error, bad: true });
  }
  async function endLink() {
    const ended = await endLinkAction(id).catch(notAnswered);
    if (ended.ok) onLink(null);
    else tell({ words: ended.error, bad: true });
  }
  return (
    <div className="flex items-center gap-x-3 gap-y-1 flex-wrap">
      <Button look="main" onClick={onFreeze}>
        <Lock size={16} aria-hidden /> Freeze a version
      </Button>
      <a className={buttonClass('plain')} href={`/api/reports/${id}/pdf${version}`} download>
        <Download size={16} aria-hidden /> PDF
      </a>
      <a className={buttonClass('plain')} href={`/api/reports/${id}/page${save}`} download>
        <Download size={16} aria-hidden /> HTML
      </a>
      {link === null ? (
        <Button look="plain" onClick={() => void makeLink()}>
          <Link2 size={16} aria-hidden /> Make a link
        </Button>
      ) : (
        <span className="flex items-center gap-2">
          <a href={`/r/${link.token}`} className="underline" target="_blank" rel="noreferrer">
            read-only link
          </a>
          <button type="button" className="underline text-ink-2" onClick={() => void endLink()}>
            end it
          </button>
        </span>
      )}
      <div className="flex items-center gap-2 ml-auto">
        <span className="text-ink-3 text-label" aria-hidden>
          Shown
        </span>
        <Select
          label="Shown"
          className="min-w-[160px]"
          value={shown === null ? '' : String(shown)}
          options={[
            ['', 'as it is now'],
            ...versions.map(
              (one) =>
                [
                  String(one.number),
                  `version ${one.number}, ${one.frozenAt.slice(0, 10)}, ${one.hash.slice(0, 8)}`,
                ] as const,
            ),
          ]}
          onChange={(chosen) => onShown(chosen === '' ? null : Number(chosen))}
        />
      </div>
    </div>
  );
}
