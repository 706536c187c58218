import { Link } from '@/ui/Link';
import { buttonClass } from '@/ui/Button';
import { Header } from '@/ui/Header';

export default function NotFound() {
  return (
    <>
      <Header />
      <main id="main" className="max-w-[680px] mx-auto px-[18px] py-16">
        <h1>Nothing is here</h1>
        <p className="text-ink-2 mt-2 mb-5">The session may have been put away, or the address is mistyped.</p>
        <Link href="/" className={buttonClass('main')}>
          All sessions
        </Link>
      </main>
    </>
  );
}
