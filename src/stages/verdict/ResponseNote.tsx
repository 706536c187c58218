import type { ReactNode } from 'react';
import { Link } from '@/ui/Link';
import type { Readings } from '@/core/session/readings';
import { CurveChart } from '@/ui/charts/CurveChart';
import { DoubtedCurve } from '@/ui/charts/DoubtedCurve';
import { Disclosure } from '@/ui/controls/Disclosure';
import { fixed } from '@/ui/format';

type Channels = [number, number][][];

/** How code values became light: in words, and for a response that was recovered, its curve and what it leaves. */
export function ResponseNote({
  response,
  nameOf = (id) => id,
}: {
  response: Readings['response'];
  nameOf?: (id: string) => string;
}) {
  const words = String(response.description ?? response.kind);
  const curve = response.curve as Channels | undefined;
  const end = (
    <>
      ± is the expanded uncertainty at 95 %.{' '}
      <Link href="/method" className="underline">
        How the figures are made
      </Link>
    </>
  );
  if (response.learned) return <LearnedCurve learned={response.learned} words={words} nameOf={nameOf} end={end} />;
  if (!curve || response.residualStops === undefined)
    return (
      <p className="text-ink-3 text-small mt-3">
        Response: {words}. {end}
      </p>
    );
  const shared = curve.every((channel) => JSON.stringify(channel) === JSON.stringify(curve[0]));
  const finite = (shared ? curve.slice(0, 1) : curve).map((channel) =>
    channel
      .filter(([, stops]) => Number.isFinite(stops) && stops > -14)
      .map(([code, stops]) => [100 * code, stops] as const),
  );
  const heights = finite.flat().map(([, stops]) => stops);
  const [lowest, highest] = [Math.floor(Math.min(...heights) / 2) * 2, Math.ceil(Math.max(...heights) / 2) * 2];
  return (
    <div className="mt-3">
      <p className="text-ink-3 text-small">
        Response: {words}, its pictures within {fixed(response.residualStops, 4)} stop of it. {end}
      </p>
      <Disclosure
        words="The curve"
        triggerClass="text-small text-ink-2 mt-1"
        inside="bg-sheet rounded-sheet px-[18px] py-3 mt-2 max-w-[520px]"
      >
        <CurveChart
          label="Light in stops against the code value in percent"
          height={220}
          curves={finite.map((points, i) => ({
            points,
            ink: i === 1 || shared ? 'bright' : 'gray',
            dash: (['dashed', 'solid', 'dotted'] as const)[shared ? 1 : i],
          }))}
          x={{ min: 0, max: 100, interval: 25, name: 'code value, % of full scale' }}
          y={{ min: lowest, max: highest, interval: 2, name: 'light, stops' }}
        />
        <p className="text-small text-ink-2">
          {shared ? 'One curve fits all three channels.' : 'Red dashed, green solid, blue dotted: the channels differ.'}
        </p>
      </Disclosure>
    </div>
  );
}

/** The curve of a camera that only tells a standard one: what it rests on, how much of the ± it is, and its cloud of doubt. */
function LearnedCurve({
  learned: { checked, share, curve, automaticTone, localTone },
  words,
  nameOf,
  end,
}: {
  learned: NonNullable<Readings['response']['learned']>;
  words: string;
  nameOf: (id: string) => string;
  end: ReactNode;
}) {
  return (
    <div className="mt-3">
      <p className="text-ink-3 text-small">
        Response: {words}.
        {share &&
          ` Of the ±${fixed(share.u95, 3)} of ${nameOf(share.filter)}’s strength ±${fixed(share.ofU95, 3)} come from it.`}{' '}
        {!checked && 'Two more bare pictures with the same settings, one and three stops darker, would tell it. '}
        {end}
      </p>
      <Disclosure
        words="The curve and its doubt"
        triggerClass="text-small text-ink-2 mt-1"
        inside="bg-sheet rounded-sheet px-[18px] py-3 mt-2 max-w-[520px]"
      >
        <DoubtedCurve height={220} points={curve.map(([code, stops, u95]) => ({ code, stops, u95 }))} />
        <p className="text-small text-ink-2">
          Dotted: the ± of each light against the middle code’s.
          {automaticTone && ` Tone adapts to the picture: ${fixed(Math.abs(automaticTone.value), 3)} stop a stop.`}
          {localTone &&
            ` Contrast with the surroundings is changed by a factor of ${fixed(1 + localTone.value, 3)} ± ${fixed(localTone.u95, 3)}.`}
        </p>
      </Disclosure>
    </div>
  );
}
