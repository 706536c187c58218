'use client';

import { Popover } from 'radix-ui';
import { useState } from 'react';
import { comparedAction, otherSessionsAction } from '@/server/compareActions';
import type { ComparedPicture, ComparedSession } from '@/server/compare';
import { Button, buttonClass } from '@/ui/Button';
import { bareOf, MOST_TILES_SHOWN, type Layout } from './state';
import type { Shown } from './shown';

/** Which pictures are shown: the scene, the take of the filter, and for tiles any six of any session. */
export function Pictures({
  scenes,
  scene,
  onScene,
  layout,
  own,
  compared,
  second,
  onSecond,
  shown,
  onPicked,
  onAll,
}: {
  scenes: readonly string[];
  scene: string;
  onScene: (scene: string) => void;
  layout: Layout;
  own: readonly ComparedPicture[];
  compared: ComparedSession;
  second: ComparedPicture | null;
  onSecond: (file: string) => void;
  shown: readonly Shown[];
  onPicked: (shown: Shown[]) => void;
  /** Bare and every filter in one row. */
  onAll: () => void;
}) {
  const many = layout === 'tiles' || layout === 'side' || layout === 'stack';
  const same = second ? own.filter((one) => one.filter === second.filter) : [];
  return (
    <div className="flex items-center gap-2 ml-3 flex-wrap">
      {scenes.length > 1 && (
        <select aria-label="Scene" className="field" value={scene} onChange={(event) => onScene(event.target.value)}>
          {scenes.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
      )}
      {layout !== 'tiles' && same.length > 1 && (
        <select
          aria-label="Take"
          className="field"
          value={second!.file}
          onChange={(event) => onSecond(event.target.value)}
        >
          {same.map((one) => (
            <option key={one.file} value={one.file}>
              {one.take}
            </option>
          ))}
        </select>
      )}
      {many && <Picker compared={compared} own={own} shown={shown} onPicked={onPicked} />}
      {many && (
        <Button look="quiet" onClick={onAll}>
          All in a row
        </Button>
      )}
    </div>
  );
}

function Picker({
  compared,
  own,
  shown,
  onPicked,
}: {
  compared: ComparedSession;
  own: readonly ComparedPicture[];
  shown: readonly Shown[];
  onPicked: (shown: Shown[]) => void;
}) {
  const [others, setOthers] = useState<{ id: string; title: string }[] | null>(null);
  const [other, setOther] = useState<ComparedSession | null>(null);
  const isShown = (picture: ComparedPicture) =>
    shown.some((one) => one.picture.file === picture.file && one.picture.sha256 === picture.sha256);

  function toggle(picture: ComparedPicture, session: ComparedSession) {
    const kept = shown.filter((one) => one.picture.sha256 !== picture.sha256);
    if (kept.length < shown.length) {
      if (kept.length > 0) onPicked(kept);
    } else if (shown.length < MOST_TILES_SHOWN)
      onPicked([...shown, { picture, bare: bareOf(session, picture), session }]);
  }

  const list = (session: ComparedSession, pictures: readonly ComparedPicture[]) => (
    <ul className="mt-1">
      {pictures.map((picture) => (
        <li key={picture.file}>
          <label className="flex items-center gap-2 py-0.5">
            <input
              type="checkbox"
              className="accent-accent size-4"
              checked={isShown(picture)}
              disabled={!isShown(picture) && shown.length >= MOST_TILES_SHOWN}
              onChange={() => toggle(picture, session)}
            />
            {picture.name} <span className="text-ink-3">{picture.take}</span>
          </label>
        </li>
      ))}
    </ul>
  );
  return (
    <Popover.Root onOpenChange={(open) => open && !others && void otherSessionsAction().then(setOthers)}>
      <Popover.Trigger className={buttonClass('quiet')}>
        Choose tiles, {shown.length} of {MOST_TILES_SHOWN}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="top"
          align="start"
          aria-label="Tiles"
          className="bg-sheet rounded-[10px] p-4 w-[330px] max-h-[60vh] overflow-y-auto"
        >
          <p className="font-semibold">This session</p>
          {list(compared, own)}
          <label className="grid gap-1 mt-3">
            <span className="text-ink-3 text-[12px]">From another session, levelled against its own bare</span>
            <select
              className="field"
              value={other?.id ?? ''}
              onChange={(event) => void comparedAction(event.target.value).then(setOther)}
            >
              <option value="" disabled>
                choose …
              </option>
              {(others ?? [])
                .filter((one) => one.id !== compared.id)
                .map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.title}
                  </option>
                ))}
            </select>
          </label>
          {other && list(other, other.pictures)}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
