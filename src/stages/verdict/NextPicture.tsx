import { Aperture } from 'lucide-react';
import type { NextPicture as Next } from '@/core/judging/rating/nextPicture';
import { fixed, listed } from '@/ui/format';

const FIGURES = {
  strength: { words: 'strength', unit: ' stop', places: 2 },
  cast: { words: 'cast', unit: ' ΔE00', places: 1 },
  sharpness: { words: 'kept sharpness', unit: '', places: 2 },
  corners: { words: 'corners', unit: ' stop', places: 2 },
} as const;

/** The one picture to shoot next, and what it would narrow. */
export function NextPicture({ next, nameOf }: { next: Next; nameOf: (id: string) => string }) {
  return (
    <p className="flex gap-2.5 bg-sheet rounded-md px-3.5 py-2.5 mt-3.5" data-testid="next-picture">
      <Aperture size={18} aria-hidden className="text-accent shrink-0 mt-px" />
      <span>
        <b className="font-strong">Next picture: </b>
        {next.kind === 'withheld' ? (
          <>
            {next.remedy}{' '}
            <span className="text-ink-2">
              That would give {listed(next.filters.map(nameOf))} figures that the pictures can’t carry yet.
            </span>
          </>
        ) : (
          <Narrowing next={next} name={nameOf(next.filter)} />
        )}
      </span>
    </p>
  );
}

function Narrowing({ next, name }: { next: Extract<Next, { kind: 'narrow' }>; name: string }) {
  const { words, unit, places } = FIGURES[next.figure];
  const size = (u95: number) => `±${fixed(u95, places)}${unit}`;
  return (
    <>
      {next.how}.{' '}
      <span className="text-ink-2">
        The widest ± for its rating is that of {name}’s {words}, {size(next.u95)}: {Math.round(100 * next.share)} % of
        it (in variance) is {next.what}. Without that it would be {size(next.without)}.
      </span>
    </>
  );
}
