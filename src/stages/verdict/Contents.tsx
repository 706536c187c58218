'use client';

import { useEffect, useState, type KeyboardEvent } from 'react';

/** A part counts as reached when it begins above this share of the window's height. */
const REACHED = 0.35;

const partsOf = (): HTMLElement[] => [...document.querySelectorAll<HTMLElement>('#main [data-part]')];

/** The parts of a long page; the one that is read is marked, and arrows walk from part to part. */
export function Contents() {
  const [names, setNames] = useState<string[]>([]);
  const [here, setHere] = useState(0);

  useEffect(() => {
    const look = () => {
      const parts = partsOf();
      const found = parts.map((one) => one.dataset.part ?? '');
      setNames((known) => (known.join('\n') === found.join('\n') ? known : found));
      const line = REACHED * window.innerHeight;
      const isEnd = window.innerHeight + window.scrollY >= document.documentElement.scrollHeight - 2;
      const reached = parts.filter((one) => one.getBoundingClientRect().top <= line).length - 1;
      setHere(isEnd && window.scrollY > 0 ? parts.length - 1 : Math.max(0, reached));
    };
    look();
    window.addEventListener('scroll', look, { passive: true });
    window.addEventListener('resize', look);
    const main = document.getElementById('main');
    const changes = new MutationObserver(look);
    if (main)
      changes.observe(main, { childList: true, subtree: true, attributes: true, attributeFilter: ['data-part'] });
    return () => {
      window.removeEventListener('scroll', look);
      window.removeEventListener('resize', look);
      changes.disconnect();
    };
  }, []);

  const show = (index: number) => {
    const part = partsOf()[index];
    // A page that is asked not to move jumps.
    const calm = window.matchMedia('(prefers-reduced-motion: reduce)').matches;
    part?.scrollIntoView({ block: 'start', behavior: calm ? 'auto' : 'smooth' });
  };

  function walk(event: KeyboardEvent<HTMLElement>, index: number) {
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    const next = index + step;
    if (step === 0 || next < 0 || next >= names.length) return;
    event.preventDefault();
    show(next);
    event.currentTarget.closest('ol')?.querySelectorAll<HTMLElement>('button')[next]?.focus({ preventScroll: true });
  }

  if (names.length < 2) return null;
  return (
    <nav aria-label="On this page" className="hidden lg:block sticky top-3 mt-[18px] px-[18px] py-3">
      <h2 className="text-label text-ink-3 font-normal mb-1.5">On this page</h2>
      <ol>
        {names.map((name, i) => (
          <li key={`${i} ${name}`}>
            <button
              type="button"
              aria-current={i === here ? 'location' : undefined}
              className={`block w-full text-left py-1 pl-3 border-l-2 ${
                i === here ? 'border-accent text-ink' : 'border-ink-4 text-ink-2 hover:text-ink'
              }`}
              onClick={() => show(i)}
              onKeyDown={(event) => walk(event, i)}
            >
              {name}
            </button>
          </li>
        ))}
      </ol>
    </nav>
  );
}
