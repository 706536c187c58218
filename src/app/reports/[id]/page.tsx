import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { lanAddresses } from '@/server/lan';
import { linkOf, listSessions, readReport, reportVersions } from '@/store';
import { ReportEditor } from '@/stages/report/ReportEditor';
import { Header } from '@/ui/Header';

type Props = { params: Promise<{ id: string }> };

export const metadata: Metadata = { title: 'Report' };
export const dynamic = 'force-dynamic';

export default async function Page({ params }: Props) {
  const found = await readReport((await params).id);
  if (!found) notFound();
  const [versions, sessions, link] = await Promise.all([reportVersions(found.id), listSessions(200), linkOf(found.id)]);
  return (
    <>
      <Header stage="reports" />
      <ReportEditor
        id={found.id}
        first={found.item}
        revision={found.revision}
        versions={versions.map(({ number, hash, frozenAt }) => ({ number, hash, frozenAt: frozenAt.toISOString() }))}
        firstLink={link && { token: link.token, until: link.until.toISOString() }}
        lan={lanAddresses()}
        sessions={sessions.filter((one) => one.takes > 0).map(({ id, title }) => ({ id, title }))}
      />
    </>
  );
}
