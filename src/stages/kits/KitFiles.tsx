import { Download, FileUp } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useRef } from 'react';
import { importKitsAction, type Imported } from '@/server/shelfActions';
import { Button, buttonClass } from '@/ui/Button';
import { FilePicker, type Picking } from '@/ui/controls/FilePicker';
import { notAnswered } from '@/ui/saving/asked';

/** Kits from files, and all kits as a file. */
export function KitFiles({
  some,
  busy,
  onBusy,
  onTold,
}: {
  /** Whether there are kits to take away. */
  some: boolean;
  busy: boolean;
  onBusy: (busy: boolean) => void;
  onTold: (lines: string[]) => void;
}) {
  const router = useRouter();
  const picker = useRef<Picking>(null);

  async function take(files: File[]) {
    onBusy(true);
    const lines: string[] = [];
    for (const file of files) {
      const result = await importKitsAction(await file.text()).catch((error: unknown): Imported => ({
        kits: 0,
        filters: 0,
        problems: [notAnswered(error).error],
      }));
      lines.push(wordsOf(file.name, result), ...result.problems);
    }
    onTold(lines);
    onBusy(false);
    router.refresh();
  }

  return (
    <div className="flex gap-1 flex-wrap">
      <Button look="quiet" onClick={() => picker.current?.open()} disabled={busy}>
        <FileUp size={16} aria-hidden /> Import CSV or JSON
      </Button>
      {some &&
        ['CSV', 'JSON'].map((format) => (
          <a key={format} href={`/api/kits?format=${format.toLowerCase()}`} download className={buttonClass('quiet')}>
            <Download size={16} aria-hidden /> {format}
          </a>
        ))}
      <FilePicker
        picking={picker}
        label="Files of kits"
        accept=".csv,.tsv,.json,.txt"
        multiple
        onFiles={(files) => void take(files)}
      />
    </div>
  );
}

function wordsOf(name: string, { kits, filters }: Imported): string {
  if (kits === 0) return `${name}: nothing was taken in.`;
  return `${name}: ${kits} ${kits === 1 ? 'kit' : 'kits'} with ${filters} ${filters === 1 ? 'filter' : 'filters'} taken in.`;
}
