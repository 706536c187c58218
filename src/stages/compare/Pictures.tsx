'use client';

import { useState } from 'react';
import { comparedAction, otherSessionsAction } from '@/server/compareActions';
import type { ComparedPicture, ComparedSession } from '@/server/compare';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/controls/Checkbox';
import { Labelled } from '@/ui/controls/fields';
import { Popover } from '@/ui/controls/Popover';
import { sameWords, Select } from '@/ui/controls/Select';
import { NO_LINE_NOW } from '@/ui/saving/asked';
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
      {scenes.length > 1 && <Select label="Scene" value={scene} options={sameWords(scenes)} onChange={onScene} />}
      {layout !== 'tiles' && same.length > 1 && (
        <Select
          label="Take"
          value={second!.file}
          options={same.map((one) => [one.file, one.take])}
          onChange={onSecond}
        />
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
  const [problem, setProblem] = useState<string | null>(null);
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
          <Checkbox
            className="py-0.5"
            checked={isShown(picture)}
            disabled={!isShown(picture) && shown.length >= MOST_TILES_SHOWN}
            onChange={() => toggle(picture, session)}
          >
            {picture.name} <span className="text-ink-3">{picture.take}</span>
          </Checkbox>
        </li>
      ))}
    </ul>
  );
  const look = () =>
    void otherSessionsAction()
      .then(setOthers)
      .catch(() => setProblem(NO_LINE_NOW));
  async function take(id: string) {
    const found = await comparedAction(id).catch(() => undefined);
    setProblem(found === undefined ? NO_LINE_NOW : found ? null : 'This session is not there any more.');
    setOther(found ?? null);
  }
  return (
    <Popover
      label="Tiles"
      className="w-[330px]"
      onOpenChange={(open) => open && !others && look()}
      trigger={`Choose tiles, ${shown.length} of ${MOST_TILES_SHOWN}`}
    >
      <p className="font-semibold">This session</p>
      {list(compared, own)}
      <Labelled words="From another session, levelled against its own bare" className="mt-3">
        <Select
          value={other?.id ?? null}
          placeholder="choose …"
          options={(others ?? []).filter((one) => one.id !== compared.id).map((one) => [one.id, one.title])}
          onChange={(id) => void take(id)}
        />
      </Labelled>
      {problem && (
        <p role="alert" className="text-failure mt-2">
          {problem}
        </p>
      )}
      {other && list(other, other.pictures)}
    </Popover>
  );
}
