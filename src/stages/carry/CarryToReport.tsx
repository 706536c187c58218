import { FileText } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { CarryAsked } from '@/core/judging/carry/asked';
import { addCarryAction } from '@/server/reportActions';
import { Popover } from '@/ui/controls/Popover';
import { useTell } from '@/ui/controls/Toasts';
import { notAnswered } from '@/ui/saving/asked';
import { IntoReport } from '../report/IntoReport';

/** Puts what is asked here into a report, which answers it by the figures that it shows. */
export function CarryToReport({ asked, kits }: { asked: CarryAsked; kits: readonly string[] }) {
  const [open, setOpen] = useState(false);
  const tell = useTell();
  const router = useRouter();

  async function put(report?: string) {
    setOpen(false);
    const result = await addCarryAction(report ?? { kits: [...kits] }, asked).catch(notAnswered);
    if (!result.ok) return tell({ words: result.error, bad: true });
    tell({
      words: 'It is in the report.',
      action: { words: 'Open the report', run: () => router.push(`/reports/${result.id}`) },
    });
  }
  return (
    <Popover
      label="Put into a report"
      open={open}
      onOpenChange={setOpen}
      className="w-[300px]"
      trigger={
        <>
          <FileText size={16} aria-hidden /> Put into a report
        </>
      }
    >
      <IntoReport fresh="A new report of these kits" onPut={(report) => void put(report)} />
    </Popover>
  );
}
