'use client';

import { memo, useCallback, useMemo, useRef, useState } from 'react';
import type { ComparedSession, LaidOn } from '@/server/compare';
import type { Frame } from './viewport';
import { resolveColorSpace } from '@/core/formulas/color/spaces';
import { StopLadder } from '@/ui/ladder/StopLadder';
import { useSelectedFilter } from '@/ui/selection';
import type { SessionView } from '@/ui/sessionView';
import { Blind } from './Blind';
import { startBlind, type BlindState } from './blindState';
import { BottomBar } from './BottomBar';
import { Instruments } from './Instruments';
import { Pictures } from './Pictures';
import { compareLight } from './probe';
import { saveView } from './save';
import { Stage, type Pointed } from './Stage';
import { bareOf, FIRST_CHOICE, MOST_TILES_SHOWN, roomOf, type Choice } from './state';
import type { Shown } from './shown';
import { Toggle, Toolbar } from './Toolbar';
import { Transport } from './Transport';
import { useLaid } from './useLaid';
import { usePainter } from './usePainter';
import { usePlayback } from './usePlayback';
import { useRoomKeys } from './useRoomKeys';
import { useScreenGamut } from './useScreenGamut';
import { useSpreads } from './useSpreads';
import type { Wished } from './SaveView';
import { captionOf, captionsOf, disclosures, figureLines, spoken } from './words';

/** While the view moves the ladder stays as it is. */
const Ladder = memo(StopLadder);
/** Layouts that show any number of pictures. */
const MANY = new Set<string>(['tiles', 'side', 'stack']);
/** Half the side of the square that the probe reads, screen pixels. */
const PROBE_HALF = 4;

/** The viewing room: takes of one view, laid on each other, levelled, at their own pixels. */
export function Compare({ view, compared }: { view: SessionView; compared: ComparedSession }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const behind = useRef<HTMLCanvasElement>(null);
  const [chosen, setChoice] = useState<Choice>(FIRST_CHOICE);
  const screenGamut = useScreenGamut();
  const choice = useMemo(() => ({ ...chosen, gamut: chosen.gamut ?? screenGamut }), [chosen, screenGamut]);
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
  const player = usePlayback(shown);
  const { playback } = player;
  const laid = useLaid(shown, playback);
  const ratio = typeof window === 'undefined' ? 1 : window.devicePixelRatio;
  const [loupe, setLoupe] = useState<{ x: number; y: number } | null>(null);
  const room = useMemo(
    () =>
      roomOf(
        { ...choice, layout, bare: choice.bare && !blind },
        shown,
        laid,
        size,
        ratio,
        choice.loupe ? loupe : null,
        playback,
      ),
    [choice, layout, shown, laid, size, ratio, loupe, blind, playback],
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
  const { painter, begun, settled, soft, sharpen } = usePainter(canvas, behind, room);
  const names = shown.map((one, i) => (blind && !blind.revealed ? String.fromCharCode(65 + i) : one.picture.name));
  const captions = shown.map((one, i) =>
    blind && !blind.revealed
      ? names[i]
      : captionOf(one, choice.level, nameWithSession(one, compared, names[i]), playback),
  );
  const cellCaptions =
    choice.bare && !blind && shown.length > 0
      ? [captionOf(shown[0], choice.level, shown[0].picture.name, playback)]
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
        room.cells[0].a.luminance,
        space,
      );
    },
    [painter, room, space, blind],
  );

  const spreads = useSpreads(painter, choice.instruments ? room : null, two ? null : shown.length, settled);
  useRoomKeys(room, choice, change, blind !== null && !blind.revealed);
  const problems = shown.flatMap(({ picture }, i) => {
    const trouble =
      painter.current?.problem({ sha256: picture.sha256, response: picture.response }) ??
      player.problem(picture.sha256) ??
      laid.get(picture.sha256)?.problem;
    return trouble ? [`${names[i]}: ${trouble}`] : [];
  });
  const scale = room?.view.scale ?? 1;
  const scenes = [...new Set(compared.pictures.map((one) => one.scene))];
  const moved = second ? laid.get(second.sha256) : undefined;

  function save(wished: Wished) {
    if (!room || !canvas.current) return;
    sharpen();
    const tiles = room.cells
      .filter((cell) => !cell.view)
      .flatMap((cell, i) =>
        two ? cellCaptions.map((caption) => ({ ...cell, caption })) : [{ ...cell, caption: cellCaptions[i] }],
      );
    const origin = `${view.session.title} · ${scene} · ${Math.round(100 * scale)} %`;
    const hidden = blind !== null && !blind.revealed;
    const more = hidden
      ? []
      : [...(wished.figures ? figureLines(shown) : []), ...(wished.disclosure ? disclosures(shown) : [])];
    void saveView(canvas.current, tiles, [...more, origin], 'compare.png', choice.gamut);
  }

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
          behind={behind}
          begun={begun}
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
        <Transport player={player} second={blind ? null : (shown.find((one) => one.picture === second) ?? null)} />
        {blind && <Blind state={blind} session={view} onState={setBlind} />}
        {choice.instruments && <Instruments spreads={spreads} names={two ? names.slice(0, 2) : names} />}
        <BottomBar
          room={room}
          choice={choice}
          change={change}
          soft={soft}
          note={!blind && two && moved ? laidWords(moved) : null}
          onSave={save}
        >
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
        </BottomBar>
        <p role="status" className="sr-only">
          {room && spoken({ ...choice, layout }, shown, scale, names, playback)}
        </p>
      </main>
    </>
  );
}

const laidWords = ({ problem, movedPx }: LaidOn) =>
  problem
    ? 'not laid on bare'
    : movedPx === 0
      ? 'lies on bare as shot'
      : `laid on bare, moved ${movedPx.toFixed(1)} px`;

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
