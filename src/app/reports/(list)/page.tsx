import type { Metadata } from 'next';
import { listReports, listSessions } from '@/store';
import { ReportList } from '@/stages/report/ReportList';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'Reports' };
export const dynamic = 'force-dynamic';

export default async function Page() {
  const [reports, sessions] = await Promise.all([listReports(), listSessions(200)]);
  return (
    <>
      <Header stage="reports" />
      <ReportList
        reports={reports.map(({ id, name, items, updatedAt }) => ({
          id,
          title: name,
          sessions: items,
          changed: updatedAt.toISOString(),
        }))}
        sessions={sessions.filter((one) => one.takes > 0).map(({ id, title }) => ({ id, title }))}
        first={null}
      />
    </>
  );
}
