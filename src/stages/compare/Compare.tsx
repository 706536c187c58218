'use client';

import { Download } from 'lucide-react';
import { memo, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { ComparedSession } from '@/app/server/compare';
import { SPOTS, spotView, zoomAt, panBy, type Frame, type Spot } from '@/core/compare';
import { resolveColorSpace } from '@/core/color';
import { Button } from '@/ui/Button';
import { useKeys } from '@/ui/keys';
import { StopLadder } from '@/ui/ladder/StopLadder';
import { useSelectedFilter } from '@/ui/selection';
import type { SessionView } from '@/ui/sessionView';
import { Blind } from './Blind';
import { startBlind, type BlindState } from './blindState';
import { Instruments, spreadOf } from './Instruments';
import { Pictures } from './Pictures';
import { compareLight } from './probe';
import { saveView } from './save';
import { Stage, type Pointed } from './Stage';
import { bareOf, FIRST_CHOICE, MOST_TILES_SHOWN, roomOf, type Choice, type Shown } from './state';
import { Toggle, Toolbar } from './Toolbar';
import { useLaid } from './useLaid';
import { usePainter } from './usePainter';
import { captionOf, captionsOf, LAYOUTS, spoken } from './words';

const SPOT_KEYS: Record<string, Spot> = {
  u: 'left upper',
  o: 'right upper',
  j: 'left lower',
  k: 'right lower',
  m: 'center',
};
const ARROWS: Record<string, readonly [number, number]> = {
  ArrowLeft: [1, 0],
  ArrowRight: [-1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
/** While the view moves the ladder stays as it is. */
const Ladder = memo(StopLadder);
/** Layouts that show any number of pictures. */
const MANY = new Set<string>(['tiles', 'side', 'stack']);
/** Half the side of the square that the probe reads, screen pixels. */
const PROBE_HALF = 4;

/** The viewing room: takes of one view, laid on each other, levelled, at their own pixels. */
export function Compare({ view, compared }: { view: SessionView; compared: ComparedSession }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [choice, setChoice] = useState<Choice>(FIRST_CHOICE);
  const [size, setSize] = useState<Frame>({ width: 0, height: 0 });
  const [scene, setScene] = useState(compared.pictures[0]?.scene ?? '');
  const [picked, setPicked] = useState<Shown[] | null>(null);
  const [file, setFile] = useState<string | null>(null);
  const [blind, setBlind] = useState<BlindState | null>(null);
  const change = useCallback((part: Partial<Choice>) => setChoice((now) => ({ ...now, ...part })), []);

  const own = useMemo(() => compared.pictures.filter((one) => one.scene === scene), [compared, scene]);
  const bare = own.find((one) => one.filter === null) ?? null;
  const filters = useMemo(
    () => view.beads.filter((bead) => own.some((one) => one.filter === bead.id)),
    [view.beads, own],
  );
  const [selected, select] = useSelectedFilter(filters, filters[0]?.id ?? null);
  const second =
    own.find((one) => one.file === file && one.filter === selected) ??
    own.find((one) => one.filter === selected) ??
    null;

  const shown = useMemo((): Shown[] => {
    const as = (picture: (typeof own)[number]): Shown => ({
      picture,
      bare: bareOf(compared, picture),
      session: compared,
    });
    if (blind) return blind.order;
    if (picked && MANY.has(choice.layout)) return picked;
    if (choice.layout === 'tiles') {
      const one = filters.flatMap((bead) => own.find((picture) => picture.filter === bead.id) ?? []);
      return [...(bare ? [bare] : []), ...one].slice(0, MOST_TILES_SHOWN).map(as);
    }
    return [...(bare ? [bare] : []), ...(second ? [second] : [])].map(as);
  }, [compared, own, bare, second, choice.layout, picked, blind, filters]);
  const layout = blind && choice.layout === 'wipe' ? 'tiles' : choice.layout;
  const laid = useLaid(shown);
  const ratio = typeof window === 'undefined' ? 1 : window.devicePixelRatio;
  const [loupe, setLoupe] = useState<{ x: number; y: number } | null>(null);
  const room = useMemo(
    () => roomOf({ ...choice, layout }, shown, laid, size, ratio, choice.loupe ? loupe : null),
    [choice, layout, shown, laid, size, ratio, loupe],
  );
  const point = useCallback(
    (at: Pointed | null) => {
      if (!choice.loupe || !room || !at) return setLoupe(null);
      const cell = room.cells[at.cell];
      const view = cell.view ?? room.view;
      setLoupe({
        x: view.x + (at.x - cell.width / 2) / view.scale,
        y: view.y + (at.y - cell.height / 2) / view.scale,
      });
    },
    [choice.loupe, room],
  );
  const { painter, settled, soft } = usePainter(canvas, room);
  const names = shown.map((one, i) => (blind && !blind.revealed ? String.fromCharCode(65 + i) : one.picture.name));
  const captions = shown.map((one, i) =>
    blind && !blind.revealed ? names[i] : captionOf(one, choice.level, nameWithSession(one, compared, names[i])),
  );
  const cellCaptions =
    choice.bare && shown.length > 0
      ? [captionOf(shown[0], choice.level)]
      : shown.length > 1
        ? captionsOf(layout, captions)
        : captions;
  const two = layout === 'wipe' || layout === 'difference' || layout === 'ratio';

  const space = useMemo(() => resolveColorSpace(view.session.rig.colorSpace), [view.session.rig.colorSpace]);
  const probe = useCallback(
    ({ cell, x, y }: Pointed) => {
      const { current } = painter;
      if (!room || !current || (blind && !blind.revealed)) return null;
      const pair = room.cells[cell].b !== null;
      const first = current.probe(room, pair ? cell : 0, 'a', x, y, PROBE_HALF);
      const other = pair
        ? current.probe(room, cell, 'b', x, y, PROBE_HALF)
        : current.probe(room, cell, 'a', x, y, PROBE_HALF);
      if (!first || !other || (!pair && cell === 0)) return null;
      const [a, b] = [room.cells[pair ? cell : 0].a.gains, (pair ? room.cells[cell].b! : room.cells[cell].a).gains];
      return compareLight(
        first.map((value, c) => value * a[c]),
        other.map((value, c) => value * b[c]),
        room.luminance,
        space,
      );
    },
    [painter, room, space, blind],
  );

  const [spreads, setSpreads] = useState<ReturnType<typeof spreadOf>[]>([]);
  useEffect(() => {
    if (!choice.instruments || !room) return;
    const timer = setTimeout(() => {
      const { current } = painter;
      if (!current) return;
      const layers = two
        ? (['a', 'b'] as const).flatMap((which) => (room.cells[0][which] ? [{ cell: 0, which }] : []))
        : shown.map((_, cell) => ({ cell, which: 'a' as const })).filter(({ cell }) => cell < room.cells.length);
      setSpreads(
        layers.map(({ cell, which }) => {
          const layer = room.cells[cell][which]!;
          return spreadOf(current.sample(room, cell, which), layer.gains, layer.white);
        }),
      );
      current.draw(room);
    }, 250);
    return () => clearTimeout(timer);
  }, [choice.instruments, room, settled, painter, two, shown]);

  useKeys((key, event) => {
    if (!room || (event.target instanceof HTMLElement && event.target.closest('[role="slider"]'))) return false;
    const cell = room.cells[0];
    const wanted = LAYOUTS.find((one) => one.key === key);
    if (wanted) change({ layout: wanted.layout });
    else if (key === 'b') {
      if (!event.repeat) change({ bare: true });
    } else if (key === 'l') change({ level: choice.level === 'level' ? 'shot' : 'level' });
    else if (key === 'L') change({ level: choice.level === 'channels' ? 'shot' : 'channels' });
    else if (key === 'c') change({ marks: !choice.marks });
    else if (key === 'i') change({ instruments: !choice.instruments });
    else if (key === 'q') change({ loupe: !choice.loupe });
    else if (key === 'z') change({ view: room.view.scale === 1 ? null : { ...room.view, scale: 1 } });
    else if (key === '+' || key === '=' || key === '-')
      change({ view: zoomAt(room.view, key === '-' ? 1 / Math.SQRT2 : Math.SQRT2, { x: 0, y: 0 }, room.frame, cell) });
    else if (key in SPOT_KEYS) change({ view: spotView(SPOT_KEYS[key], room.view, room.frame, cell) });
    else if (key in ARROWS && !(event.target as HTMLElement).closest('[data-bead]')) {
      const [x, y] = ARROWS[key];
      change({ view: panBy(room.view, (x * cell.width) / 8, (y * cell.height) / 8, room.frame, cell) });
    } else return false;
    return true;
  });
  useEffect(() => {
    const up = (event: KeyboardEvent) => event.key === 'b' && change({ bare: false });
    window.addEventListener('keyup', up);
    return () => window.removeEventListener('keyup', up);
  }, [change]);

  const problems = shown.flatMap(({ picture }, i) => {
    const trouble =
      painter.current?.problem({ sha256: picture.sha256, response: picture.response }) ??
      laid.get(picture.sha256)?.problem;
    return trouble ? [`${names[i]}: ${trouble}`] : [];
  });
  const scale = room?.view.scale ?? 1;
  const scenes = [...new Set(compared.pictures.map((one) => one.scene))];
  const moved = second ? laid.get(second.sha256) : undefined;

  if (compared.pictures.length === 0)
    return (
      <main id="main" className="px-[18px] py-7">
        <h1>Nothing to compare yet</h1>
        <p className="text-ink-2 mt-2">This session has no pictures that can be shown. Drop them in Footage.</p>
      </main>
    );
  return (
    <>
      {!blind && <Ladder beads={view.beads} selected={selected} onSelect={select} />}
      <main
        id="main"
        className="px-[18px] pb-2 flex flex-col flex-1"
        style={{ minHeight: blind ? 'calc(100dvh - 46px)' : 'calc(100dvh - 162px)' }}
      >
        <h1 className="sr-only">Compare</h1>
        <Toolbar choice={{ ...choice, layout }} onChoice={change}>
          <Toggle
            on={blind !== null}
            keys=""
            onClick={() =>
              setBlind(
                blind
                  ? null
                  : startBlind(
                      forBlind(
                        shown,
                        own,
                        compared,
                        filters.map((one) => one.id),
                      ),
                      new Date().toISOString(),
                    ),
              )
            }
          >
            Blind
          </Toggle>
        </Toolbar>
        <Stage
          canvas={canvas}
          room={room}
          ratio={ratio}
          captions={cellCaptions}
          wiping={layout === 'wipe' && !choice.bare && shown.length > 1}
          onSize={setSize}
          onView={(next) => change({ view: next })}
          onWipe={(wipe) => change({ wipe })}
          onPoint={point}
          probe={probe}
          settled={settled}
        />
        {problems.length > 0 && (
          <ul role="status" className="bg-well border-l-[3px] border-warning rounded-r-md px-4 py-2 mt-2">
            {problems.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        )}
        {blind && <Blind state={blind} session={view} onState={setBlind} />}
        {choice.instruments && <Instruments spreads={spreads} names={two ? names.slice(0, 2) : names} />}
        <div className="flex items-center justify-between gap-x-6 gap-y-1 flex-wrap pt-1.5">
          <div className="flex flex-wrap items-center">
            <Toggle on={choice.view === null} keys="" onClick={() => change({ view: null })}>
              Fit
            </Toggle>
            <Toggle on={scale === 1} keys="z" onClick={() => room && change({ view: { ...room.view, scale: 1 } })}>
              Own pixels
            </Toggle>
            <Toggle on={choice.loupe} keys="q" onClick={() => change({ loupe: !choice.loupe })}>
              Loupe
            </Toggle>
            <span className="px-2.5 text-ink-2 tabular-nums">{Math.round(100 * scale)} %</span>
            <div role="group" aria-label="Jump to" className="flex">
              {SPOTS.map((spot, i) => (
                <button
                  key={spot}
                  type="button"
                  aria-label={spot}
                  title={`${spot} (${Object.keys(SPOT_KEYS).find((key) => SPOT_KEYS[key] === spot)})`}
                  className="min-w-8 px-2 py-1 rounded-md hover:bg-sheet"
                  onClick={() => room && change({ view: spotView(spot, room.view, room.frame, room.cells[0]) })}
                >
                  {['·', '↖', '↗', '↙', '↘'][i]}
                </button>
              ))}
            </div>
            {!blind && (
              <Pictures
                scenes={scenes}
                scene={scene}
                onScene={(next) => {
                  setScene(next);
                  setPicked(null);
                  change({ view: null });
                }}
                layout={layout}
                own={own}
                compared={compared}
                second={second}
                onSecond={setFile}
                shown={shown}
                onPicked={setPicked}
                onAll={() => {
                  const all = [null, ...filters.map((one) => one.id)].flatMap(
                    (id) => own.find((one) => one.filter === id) ?? [],
                  );
                  setPicked(all.map((picture) => ({ picture, bare: bareOf(compared, picture), session: compared })));
                  change({ layout: 'side' });
                }}
              />
            )}
          </div>
          <div className="flex items-center gap-4 flex-wrap">
            <label className="flex items-center gap-2 text-ink-2 text-[13px]">
              Room
              <input
                type="range"
                min={5}
                max={60}
                value={choice.lightness}
                aria-label="Lightness of the room"
                className="accent-ink-2"
                onChange={(event) => change({ lightness: Number(event.target.value) })}
              />
            </label>
            {!blind && two && moved && (
              <span className="text-ink-2 text-[13px]">
                {moved.problem
                  ? 'not laid on bare'
                  : moved.movedPx === 0
                    ? 'lies on bare as shot'
                    : `laid on bare, moved ${moved.movedPx.toFixed(1)} px`}
              </span>
            )}
            {soft && <span className="text-ink-3 text-[13px]">drawn without graphics, coarser</span>}
            <Button
              look="quiet"
              disabled={!room}
              onClick={() =>
                room &&
                canvas.current &&
                void saveView(
                  canvas.current,
                  room.cells
                    .filter((cell) => !cell.view)
                    .flatMap((cell, i) =>
                      two
                        ? captions.slice(0, 2).map((caption) => ({ ...cell, caption }))
                        : [{ ...cell, caption: captions[i] }],
                    ),
                  `${view.session.title} · ${scene} · ${Math.round(100 * scale)} %`,
                  'compare.png',
                )
              }
            >
              <Download size={16} aria-hidden /> Save this view
            </Button>
          </div>
        </div>
        <p role="status" className="sr-only">
          {room && spoken({ ...choice, layout }, shown, scale, names)}
        </p>
      </main>
    </>
  );
}

const nameWithSession = ({ session }: Shown, here: ComparedSession, name: string) =>
  session.id === here.id ? name : `${name} · ${session.title}`;

/** Bare and up to five filters of the scene, or the tiles that were chosen. */
function forBlind(
  shown: readonly Shown[],
  own: ComparedSession['pictures'],
  session: ComparedSession,
  filters: readonly string[],
): readonly Shown[] {
  if (shown.length > 2) return shown;
  const each = [null, ...filters].flatMap((id) => own.find((one) => one.filter === id) ?? []);
  return each.slice(0, MOST_TILES_SHOWN).map((picture) => ({ picture, bare: bareOf(session, picture), session }));
}
