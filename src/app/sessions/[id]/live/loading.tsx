import { PageComing } from '@/ui/PageComing';

export default function Loading() {
  return <PageComing stage="shoot" />;
}
