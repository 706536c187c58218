import type { Metadata } from 'next';
import { nextPicture } from '@/core/judging/rating/nextPicture';
import { bandsInForce } from '@/server/judged';
import { loadView } from '@/server/view';
import { KitPanels } from '@/stages/verdict/KitPanel';
import { LightPanel } from '@/stages/verdict/LightPanel';
import { NextPicture } from '@/stages/verdict/NextPicture';
import { ResponseNote } from '@/stages/verdict/ResponseNote';
import { Verdict } from '@/stages/verdict/Verdict';
import { Header } from '@/ui/Header';

type Props = { params: Promise<{ id: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { session } = await loadView((await params).id);
  return { title: `Verdict · ${session.title}` };
}

export default async function Page({ params }: Props) {
  const view = await loadView((await params).id);
  const { readings } = view;
  const next = readings && nextPicture(readings, await bandsInForce());
  const filters = view.session.kits.flatMap((kit) => kit.filters);
  const nameOf = (id: string) => filters.find((filter) => filter.id === id)?.name ?? id;
  return (
    <>
      <Header session={{ id: view.id, title: view.session.title }} stage="verdict" />
      <Verdict
        view={view}
        next={next && <NextPicture next={next} nameOf={nameOf} />}
        response={readings && <ResponseNote response={readings.response} nameOf={nameOf} />}
        whole={
          <>
            {readings?.light && <LightPanel light={readings.light} createdAt={readings.createdAt} />}
            <KitPanels view={view} />
          </>
        }
      />
    </>
  );
}
