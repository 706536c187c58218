'use client';

import type { DetailsView } from '@/server/details';
import { Labelled, TextArea, TextInput } from '@/ui/controls/fields';
import { SavedNote } from '@/ui/saving/SavedNote';
import { UndoButtons } from '@/ui/saving/UndoButtons';
import { KitSection } from './KitSection';
import { History } from './History';
import { RigSection } from './RigSection';
import { SceneSection } from './SceneSection';
import { useSessionFields } from './useSessionFields';

const text = (value: unknown) => (typeof value === 'string' ? value : '');

/** What a session is called, where and with what it was shot: all of it can be put right, and what was changed can be brought back. */
export function SessionDetails({ view }: { view: DetailsView }) {
  const { fields, version, change, saved, undo } = useSessionFields(view.id, view.fields);
  const set = (key: string, value: string) =>
    change(value === '' && key !== 'title' ? without(fields, key) : { ...fields, [key]: value });
  return (
    <main
      id="main"
      className="px-[18px] py-[18px] grid grid-cols-[minmax(0,1fr)] gap-[22px] items-start lg:grid-cols-[minmax(0,1fr)_310px] w-full max-w-[1680px] mx-auto"
    >
      <div className="min-w-0 grid grid-cols-[minmax(0,1fr)] gap-7">
        <section aria-label="The session">
          <div className="flex justify-between gap-4 items-start flex-wrap">
            <h1>{text(fields.title) || 'A session without a title'}</h1>
            <span className="flex gap-1 items-center">
              <SavedNote {...saved} />
              <UndoButtons undo={undo} />
            </span>
          </div>
          <p className="text-ink-2 mt-1">
            Figures that hang on a change are marked until they are measured again; words alone change none.
          </p>
          <div className="flex gap-3 flex-wrap items-end mt-3">
            <Labelled words="Title" className="grow basis-[260px]">
              <TextInput
                className="w-full"
                value={text(fields.title)}
                maxLength={500}
                onChange={({ target }) => set('title', target.value)}
              />
            </Labelled>
            <Labelled words="Place" className="grow basis-[200px]">
              <TextInput
                className="w-full"
                placeholder="Ashwick, the garden wall"
                value={text(fields.place)}
                maxLength={500}
                onChange={({ target }) => set('place', target.value)}
              />
            </Labelled>
            <Labelled words="Day">
              <TextInput
                type="date"
                className="w-[150px]"
                value={text(fields.date)}
                onChange={({ target }) => set('date', target.value)}
              />
            </Labelled>
          </div>
          <Labelled words="Notes" className="mt-3">
            <TextArea
              className="min-h-[64px]"
              placeholder="What the light did, who held the ladder, what to do otherwise next time"
              value={text(fields.notes)}
              maxLength={20_000}
              onChange={({ target }) => set('notes', target.value)}
            />
          </Labelled>
        </section>
        <RigSection key={`rig ${version}`} fields={fields} rigs={view.rigs} onChange={change} />
        {(fields.kits ?? []).map((kit, i) => (
          <KitSection
            key={`${String(kit.id)} ${version}`}
            kit={kit}
            others={(fields.kits ?? []).filter((one) => one !== kit)}
            takesOn={view.takesOn}
            onChange={(next) => change({ ...fields, kits: (fields.kits ?? []).with(i, next) })}
          />
        ))}
        <SceneSection fields={fields} onChange={change} />
      </div>
      <History sessionId={view.id} entries={view.history} />
    </main>
  );
}

function without<T extends object>(from: T, key: string): T {
  return Object.fromEntries(Object.entries(from).filter(([one]) => one !== key)) as T;
}
