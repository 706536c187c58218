import { useRef, useState } from 'react';
import type { Optics, Scene } from '@/core/session/schema';
import { editOpticsAction } from '@/server/patchActions';
import type { usePatches } from './usePatches';

/** States of a field that are remembered as this page's own. */
const MOST_SEEN = 20;

/** What may be changed of a scene's light; `undefined` takes it away. */
export type OpticsChange = { [K in keyof Optics]?: Optics[K] | undefined };

/** What is known of each scene's light, as it is typed; it goes the way of the patches to the server. */
export function useOptics(sessionId: string, save: ReturnType<typeof usePatches>['save']) {
  const [typed, setTyped] = useState<Readonly<Record<string, OpticsChange>>>({});
  /** By scene and key: what stood or was sent, oldest first. */
  const seen = useRef(new Map<string, unknown[]>());
  const opticsOf = (scene: Scene): OpticsChange => typed[scene.id] ?? scene.optics ?? {};
  function change(scene: Scene, part: OpticsChange) {
    const now = opticsOf(scene);
    setTyped((all) => ({ ...all, [scene.id]: { ...now, ...part } }));
    for (const [key, value] of Object.entries(part) as [keyof Optics, unknown][]) {
      const place = `${scene.id} ${key}`;
      const before = seen.current.get(place) ?? [now[key] ?? null];
      seen.current.set(place, before);
      save(`light of ${place}`, () => {
        const known = seen.current.get(place)!;
        seen.current.set(place, [...known, value ?? null].slice(-MOST_SEEN));
        return editOpticsAction(sessionId, scene.id, { [key]: value ?? null }, { [key]: known });
      });
    }
  }
  return { opticsOf, change };
}
