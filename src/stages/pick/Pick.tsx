'use client';

import { Printer } from 'lucide-react';
import { Link } from '@/ui/Link';
import { useEffect, useMemo, useState } from 'react';
import type { PickKit, PickRig } from '@/server/pickList';
import { formatShutter, writeShutter } from '@/core/formulas/optics/exposure';
import { PICK_SCHOOLS, pickFilters, type PickSchool } from '@/core/judging/pick/pick';
import { ROUGH_LIGHT } from '@/core/judging/pick/roughLight';
import { readLight } from '@/core/sitting/planning/lightBudget';
import { targetSeconds, type Target } from '@/core/sitting/planning/target';
import type { PlanRig } from '@/core/sitting/planning/planRig';
import { useOffline } from '@/ui/useOffline';
import { Amount, Best, leftWords, PrintedCard, turnOf } from './parts';

interface Asked {
  kit: string;
  rig: string;
  light: string;
  rough: string;
  target: 'clips' | 'hyperlapse' | 'long exposure';
  frameRate: number;
  angle: number;
  interval: number;
  seconds: number;
  iso: number;
  fNumber: number;
  school: PickSchool;
  brightest: number;
  stack: boolean;
}

const FIRST: Asked = {
  kit: '',
  rig: '',
  light: '1/1600 f/2.8 ISO 100',
  rough: '',
  target: 'clips',
  frameRate: 25,
  angle: 180,
  interval: 2,
  seconds: 10,
  iso: 100,
  fNumber: 2.8,
  school: 'darker',
  brightest: 1,
  stack: false,
};
const KEPT = 'glade.pick';
/** A rig for those who keep none. */
const ANY_RIG: PlanRig = {
  camera: 'Any camera',
  widest: 1,
  fixedAperture: false,
  baseIso: 100,
  highestIso: 6400,
  fastest: 1 / 8000,
  slowest: 60,
  step: 0,
  usableStops: 8,
  shutterMarks: 'exact',
};

/** In the field: which filter, at which mark, and what it leads to. */
export function Pick({
  kits,
  rigs,
  home,
  first,
}: {
  kits: PickKit[];
  rigs: PickRig[];
  home: { id: string; title: string } | null;
  /** Kit in hand. */
  first: string | null;
}) {
  useOffline();
  const [asked, setAsked] = useState<Asked>({ ...FIRST, kit: first ?? kits[0]?.id ?? '', rig: rigs[0]?.name ?? '' });
  useEffect(() => {
    const later = setTimeout(() => {
      try {
        const kept = JSON.parse(localStorage.getItem(KEPT) ?? 'null') as Partial<Asked> | null;
        if (kept) setAsked((now) => ({ ...now, ...kept, kit: first ?? kept.kit ?? now.kit }));
      } catch {
        // What can't be read is as if nothing had been kept.
      }
    }, 0);
    return () => clearTimeout(later);
  }, [first]);
  const set = (part: Partial<Asked>) => {
    const next = { ...asked, ...part };
    setAsked(next);
    try {
      localStorage.setItem(KEPT, JSON.stringify(next));
    } catch {
      // Without room it holds for this page.
    }
  };
  const kit = kits.find((one) => one.id === asked.kit) ?? kits[0];
  const rig = rigs.find((one) => one.name === asked.rig);
  const limits = (asked.target === 'clips' ? rig?.clips : rig?.stills) ?? ANY_RIG;
  const rough = ROUGH_LIGHT.find((one) => one.words === asked.rough);
  const light = rough ? { ev100: rough.ev100 } : readLight(asked.light);
  const wanted = targetSeconds(targetOf(asked))!;
  const fNumber = limits.fixedAperture ? limits.widest : asked.fNumber;
  const problem =
    'problem' in light
      ? light.problem
      : !(wanted > 0) || !(asked.iso > 0) || !(fNumber > 0)
        ? 'Every setting is a number above 0.'
        : null;
  const picked = useMemo(
    () =>
      kit && 'ev100' in light && problem === null
        ? pickFilters(
            {
              ev100: light.ev100,
              wanted,
              iso: asked.iso,
              fNumber,
              school: asked.school,
              brightest: asked.brightest,
              rig: limits,
              ...(rig?.narrowest ? { narrowest: rig.narrowest } : {}),
              stack: asked.stack,
            },
            kit.filters,
          )
        : [],
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [kit, asked, rig],
  );
  const [best, ...rest] = picked;
  const field =
    'w-full min-w-0 h-11 rounded-[8px] border border-[#8a8a8a] bg-[#ffffff] px-3 text-[16px] text-[#1c1c1c]';
  const small = 'text-[13px] text-[#4a4a4a]';
  return (
    <div className="bg-[#fbfbfb] text-[#1c1c1c] min-h-dvh [color-scheme:light]">
      <main
        id="main"
        className="max-w-[480px] lg:max-w-[980px] w-full mx-auto px-4 pb-16 pt-3 lg:grid lg:grid-cols-2 lg:gap-8 print:block"
      >
        <div className="print:hidden">
          <div className="flex justify-between gap-3 text-[13px] text-[#4a4a4a]">
            <Link href={home ? `/sessions/${home.id}/verdict` : '/'} className="underline truncate">
              {home?.title ?? 'Aurora Glade'}
            </Link>
            <span className="whitespace-nowrap">works without a line once opened</span>
          </div>
          <h1 className="mt-2">Pick</h1>
          {kits.length === 0 ? (
            <p className="mt-3 text-[16px]">
              There is no kit yet.{' '}
              <Link href="/kits" className="underline">
                Put one on the shelf
              </Link>
              , or measure one.
            </p>
          ) : (
            <div className="grid gap-3 mt-3">
              <label className="grid gap-1">
                <span className={small}>Kit in hand</span>
                <select className={field} value={kit.id} onChange={(event) => set({ kit: event.target.value })}>
                  {kits.map((one) => (
                    <option key={one.id} value={one.id}>
                      {one.name} {one.measured > 0 ? `(${one.measured} measured)` : '(by its labels)'}
                    </option>
                  ))}
                </select>
              </label>
              {kit.stale && (
                <p className="border-l-4 border-[#8a5200] pl-3 text-[14px]">
                  Some of its figures are from before a change of their session, or by an older version: measure it
                  again when you can.
                </p>
              )}
              <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-3">
                <label className="grid gap-1">
                  <span className={small}>The bare meter says</span>
                  <input
                    className={field}
                    value={asked.light}
                    aria-invalid={problem !== null && !rough}
                    disabled={rough !== undefined}
                    onChange={(event) => set({ light: event.target.value })}
                  />
                </label>
                <label className="grid gap-1">
                  <span className={small}>or, roughly</span>
                  <select
                    className={field}
                    value={asked.rough}
                    onChange={(event) => set({ rough: event.target.value })}
                  >
                    <option value="">by the meter</option>
                    {ROUGH_LIGHT.map((one) => (
                      <option key={one.words}>{one.words}</option>
                    ))}
                  </select>
                </label>
              </div>
              {rough && (
                <p className={small}>
                  EV {rough.ev100} at ISO 100, a rough start: good to a stop or so. Meter before it matters.
                </p>
              )}
              {problem && (
                <p role="alert" className="text-[#a3271a]">
                  {problem}
                </p>
              )}
              <fieldset className="grid grid-cols-3 gap-2">
                <legend className={`${small} mb-1`}>For</legend>
                {(['clips', 'hyperlapse', 'long exposure'] as const).map((one) => (
                  <button
                    key={one}
                    type="button"
                    aria-pressed={asked.target === one}
                    className={`h-11 rounded-[8px] border text-[14px] ${asked.target === one ? 'bg-[#1c1c1c] text-[#ffffff] border-[#1c1c1c]' : 'border-[#8a8a8a]'}`}
                    onClick={() => set({ target: one })}
                  >
                    {one}
                  </button>
                ))}
              </fieldset>
              <div className="grid grid-cols-2 gap-3">
                {asked.target === 'clips' && (
                  <Amount words="Frames a second" value={asked.frameRate} onValue={(frameRate) => set({ frameRate })} />
                )}
                {asked.target === 'hyperlapse' && (
                  <Amount words="Seconds between" value={asked.interval} onValue={(interval) => set({ interval })} />
                )}
                {asked.target === 'long exposure' ? (
                  <Amount words="Seconds open" value={asked.seconds} onValue={(seconds) => set({ seconds })} />
                ) : (
                  <Amount words="Shutter angle, degrees" value={asked.angle} onValue={(angle) => set({ angle })} />
                )}
                <Amount words="ISO" value={asked.iso} onValue={(iso) => set({ iso })} />
                {limits.fixedAperture ? (
                  <p className={`${small} self-end pb-3`}>f/{limits.widest}, fixed</p>
                ) : (
                  <Amount words="f-number" value={asked.fNumber} onValue={(value) => set({ fNumber: value })} />
                )}
              </div>
              {rigs.length > 0 && (
                <label className="grid gap-1">
                  <span className={small}>Rig</span>
                  <select
                    className={field}
                    value={rig?.name ?? ''}
                    onChange={(event) => set({ rig: event.target.value })}
                  >
                    {rigs.map((one) => (
                      <option key={one.name}>{one.name}</option>
                    ))}
                    <option value="">any camera</option>
                  </select>
                </label>
              )}
              <label className="grid gap-1">
                <span className={small}>When it can’t be right</span>
                <select
                  className={field}
                  value={asked.school}
                  onChange={(event) => set({ school: event.target.value as PickSchool })}
                >
                  {PICK_SCHOOLS.map(({ school, name }) => (
                    <option key={school} value={school}>
                      {name}
                    </option>
                  ))}
                </select>
                <span className={small}>{PICK_SCHOOLS.find((one) => one.school === asked.school)!.why}</span>
              </label>
              {asked.school === 'brightest' && (
                <Amount
                  words="Stops that the brightest part lies too high"
                  value={asked.brightest}
                  onValue={(brightest) => set({ brightest })}
                />
              )}
              <label className="flex items-center gap-3 min-h-11 text-[15px]">
                <input
                  type="checkbox"
                  className="size-5 accent-[#0f6b4a]"
                  checked={asked.stack}
                  onChange={(event) => set({ stack: event.target.checked })}
                />
                Two filters on each other are allowed
              </label>
            </div>
          )}
        </div>
        {best && (
          <section aria-label="The pick" className="mt-5 lg:mt-9 print:hidden">
            <Best picked={best} wanted={wanted} />
            {asked.rig !== '' || rigs.length === 0 ? null : (
              <p className={small}>Without a rig no limit of the camera is kept.</p>
            )}
            <h2 className="mt-6 !text-[16px]">All others</h2>
            <ol className="mt-1 border-t border-[#c4c4c4]" data-testid="others">
              {rest.map((one) => (
                <li
                  key={one.name}
                  className="border-b border-[#dedede] py-2 grid grid-cols-[minmax(0,1fr)_auto] gap-x-3"
                >
                  <span className="font-[650] truncate">
                    {one.name}
                    {turnOf(one)}
                  </span>
                  <span className="text-right tabular-nums">
                    {formatShutter(one.rightSeconds)} <span className={small}>{leftWords(one.left)}</span>
                  </span>
                  <span className={`${small} col-span-2`}>
                    {one.words} {one.u95 === null && 'By its label alone.'}
                  </span>
                </li>
              ))}
            </ol>
            <button
              type="button"
              className="mt-5 h-11 rounded-[8px] border border-[#8a8a8a] px-4 flex items-center gap-2"
              onClick={() => window.print()}
            >
              <Printer size={17} aria-hidden /> Print the kit’s card
            </button>
            <p className={`${small} mt-4`}>
              An exposure within 0.7 EV of the meter’s is workable by common practice. Flying, mind the rules of the
              place and the maker’s manual; never point camera or eye at the sun.
            </p>
          </section>
        )}
        {best && (
          <p
            aria-hidden
            className="lg:hidden print:hidden fixed bottom-0 inset-x-0 bg-[#1c1c1c] text-[#ffffff] px-4 py-2.5 flex justify-between gap-3 text-[16px]"
          >
            <b>
              {best.name}
              {turnOf(best)}
            </b>
            <span>
              {writeShutter(best.settings.seconds)}, {leftWords(best.over)}
            </span>
          </p>
        )}
        {kit && <PrintedCard kit={kit} />}
      </main>
    </div>
  );
}

function targetOf({ target, frameRate, angle, interval, seconds }: Asked): Target {
  if (target === 'clips') return { kind: 'clips', frameRate, angle };
  if (target === 'hyperlapse') return { kind: 'hyperlapse', intervalSeconds: interval, angle };
  return { kind: 'long exposure', seconds };
}
