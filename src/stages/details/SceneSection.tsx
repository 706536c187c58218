import type { Scene } from '@/core/session/schema';
import type { SessionFields } from '@/server/details';
import { Line } from '@/ui/controls/fields';
import { Select, type Option } from '@/ui/controls/Select';

const KINDS: readonly Option<Scene['kind']>[] = [
  ['chart', 'a chart or gray card'],
  ['flat', 'an even surface'],
  ['flare', 'a black trap beside a light'],
  ['outdoor', 'an ordinary scene'],
  ['water', 'water, glass or leaves that reflect'],
  ['sky', 'clear sky'],
  ['screen', 'a screen, whose light is polarized'],
];

/** What each scene shows: what can be measured there hangs on it. */
export function SceneSection({
  fields,
  onChange,
}: {
  fields: SessionFields;
  onChange: (fields: SessionFields) => void;
}) {
  const scenes = fields.scenes ?? [];
  if (scenes.length === 0) return null;
  return (
    <section aria-label="Scenes" className="max-w-[480px]">
      <h2>Scenes</h2>
      <div className="grid gap-2 mt-3">
        {scenes.map((scene, i) => (
          <Line key={String(scene.id)} words={String(scene.id)}>
            <Select
              className="w-[290px]"
              value={scene.kind as Scene['kind']}
              options={KINDS}
              onChange={(kind) => onChange({ ...fields, scenes: scenes.with(i, { ...scene, kind }) })}
            />
          </Line>
        ))}
      </div>
    </section>
  );
}
