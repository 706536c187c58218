import type { Metadata } from 'next';
import { loadView } from '@/server/view';
import { listReports, listSessions, readReport } from '@/store';
import { ReportList } from '@/stages/report/ReportList';
import { Header } from '@/ui/Header';

type Props = { params: Promise<{ id: string }> };

export const metadata: Metadata = { title: 'Report' };

/** Reports that show this session, and a new one of it. */
export default async function Page({ params }: Props) {
  const { id, session } = await loadView((await params).id);
  const [listed, sessions] = await Promise.all([listReports(), listSessions(200)]);
  const own = (await Promise.all(listed.map(async (one) => ({ one, found: await readReport(one.id) })))).filter(
    ({ found }) => found?.item.sessions.includes(id),
  );
  return (
    <>
      <Header session={{ id, title: session.title }} stage="report" />
      <ReportList
        reports={own.map(({ one }) => ({
          id: one.id,
          title: one.name,
          sessions: one.items,
          changed: one.updatedAt.toISOString(),
        }))}
        sessions={sessions.filter((one) => one.takes > 0).map((one) => ({ id: one.id, title: one.title }))}
        first={id}
      />
    </>
  );
}
