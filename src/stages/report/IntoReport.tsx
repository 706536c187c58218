import { useEffect, useState } from 'react';
import { reportsAction } from '@/server/reportActions';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/controls/Select';

const NEW = 'new';

/** Which report something goes into, the last changed one first. Drawn when it is asked for. */
export function IntoReport({
  fresh,
  onPut,
}: {
  /** What a new report is called here. */
  fresh: string;
  /** @param report its id; a new one where left out */
  onPut: (report?: string) => void;
}) {
  const [reports, setReports] = useState<{ id: string; title: string }[]>([]);
  const [report, setReport] = useState(NEW);
  useEffect(() => {
    // Without an answer a new report can still be begun, which tells what is wrong.
    reportsAction().then(
      (found) => {
        setReports(found);
        setReport(found.at(0)?.id ?? NEW);
      },
      () => setReports([]),
    );
  }, []);
  return (
    <>
      <Select
        className="w-full"
        label="Report that it goes into"
        value={report}
        options={[...reports.map(({ id, title }) => [id, title] as const), [NEW, fresh]]}
        onChange={setReport}
      />
      <Button className="mt-2 w-full" onClick={() => onPut(report === NEW ? undefined : report)}>
        Put into the report
      </Button>
    </>
  );
}
