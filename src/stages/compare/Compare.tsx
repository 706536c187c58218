'use client';

import { memo, useRef } from 'react';
import type { ComparedSession, LaidOn } from '@/server/compare';
import { Toggle } from '@/ui/controls/Toggle';
import { StopLadder } from '@/ui/ladder/StopLadder';
import type { SessionView } from '@/ui/sessionView';
import { Blind } from './Blind';
import { startBlind } from './blindState';
import { BottomBar } from './BottomBar';
import { Instruments } from './Instruments';
import { Pictures } from './Pictures';
import { drawView } from './save';
import { useSaveView, type Wished } from './useSaveView';
import { Stage } from './Stage';
import { MOST_TILES_SHOWN } from './state';
import { Toolbar } from './Toolbar';
import { Transport } from './Transport';
import { useViewingRoom } from './useViewingRoom';
import { useRoomKeys } from './useRoomKeys';
import { useSpreads } from './useSpreads';
import { disclosures, figureLines, spoken } from './words';

/** While the view moves the ladder stays as it is. */
const Ladder = memo(StopLadder);

/** The viewing room: takes of one view, laid on each other, levelled, at their own pixels. */
export function Compare({ view, compared }: { view: SessionView; compared: ComparedSession }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const behind = useRef<HTMLCanvasElement>(null);
  const made = useViewingRoom(view, compared, canvas, behind);
  const { choice, change, room, blind, setBlind, hidden, shown, second, names, captions, two, problems, player } = made;
  const { layout } = choice;
  const spreads = useSpreads(made.painter, choice.instruments ? room : null, two ? null : shown.length, made.settled);
  useRoomKeys(room, choice, change, hidden);
  const scale = room?.view.scale ?? 1;
  const moved = second ? made.laid.get(second.sha256) : undefined;

  /** The view as a picture with its captions; `null` while there is none. */
  async function draw(wished: Wished) {
    if (!room || !canvas.current) return null;
    made.sharpen();
    const tiles = room.cells
      .filter((cell) => !cell.view)
      .flatMap((cell, i) =>
        two ? captions.map((caption) => ({ ...cell, caption })) : [{ ...cell, caption: captions[i] }],
      );
    const origin = `${view.session.title} · ${made.scene} · ${Math.round(100 * scale)} %`;
    const more = hidden
      ? []
      : [...(wished.figures ? figureLines(shown) : []), ...(wished.disclosure ? disclosures(shown) : [])];
    return {
      picture: await drawView(canvas.current, tiles, [...more, origin], choice.gamut),
      caption: captions.join('; '),
    };
  }
  const save = useSaveView(view.id, draw);
  /** Bare and up to five filters of the scene, or the tiles that were chosen. */
  const beginBlind = () =>
    startBlind(shown.length > 2 ? shown : made.every().slice(0, MOST_TILES_SHOWN), new Date().toISOString());

  if (compared.pictures.length === 0)
    return (
      <main id="main" className="px-[18px] py-7">
        <h1>Nothing to compare yet</h1>
        <p className="text-ink-2 mt-2">This session has no pictures that can be shown. Drop them in Footage.</p>
      </main>
    );
  return (
    <>
      {!blind && <Ladder beads={view.beads} selected={made.selected} onSelect={made.select} />}
      <main
        id="main"
        className="px-[18px] pb-2 flex flex-col flex-1"
        style={{ minHeight: blind ? 'calc(100dvh - 46px)' : 'calc(100dvh - 162px)' }}
      >
        <h1 className="sr-only">Compare</h1>
        <Toolbar choice={choice} onChoice={change}>
          <Toggle on={blind !== null} onChange={(on) => setBlind(on ? beginBlind() : null)}>
            Blind
          </Toggle>
        </Toolbar>
        <Stage
          canvas={canvas}
          behind={behind}
          begun={made.begun}
          room={room}
          ratio={made.ratio}
          captions={captions}
          wiping={layout === 'wipe' && !choice.bare && shown.length > 1}
          onSize={made.setSize}
          onView={(next) => change({ view: next })}
          onWipe={(wipe) => change({ wipe })}
          onPoint={made.point}
          probe={made.probe}
          settled={made.settled}
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
          soft={made.soft}
          note={!blind && two && moved ? laidWords(moved) : null}
          saving={save}
        >
          {!blind && (
            <Pictures
              scenes={[...new Set(compared.pictures.map((one) => one.scene))]}
              scene={made.scene}
              onScene={(next) => {
                made.setScene(next);
                change({ view: null });
              }}
              layout={layout}
              own={made.own}
              compared={compared}
              second={second}
              onSecond={made.setFile}
              shown={shown}
              onPicked={made.setPicked}
              onAll={() => {
                made.setPicked(made.every());
                change({ layout: 'side' });
              }}
            />
          )}
        </BottomBar>
        <p role="status" className="sr-only">
          {room && spoken(choice, shown, scale, names, player.playback)}
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
