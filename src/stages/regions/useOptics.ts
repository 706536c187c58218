import { useState } from 'react';
import type { Optics, Scene } from '@/core/session/schema';
import { editOpticsAction } from '@/server/patchActions';
import type { usePatches } from './usePatches';

/** What may be changed of a scene's light; `undefined` takes it away. */
export type OpticsChange = { [K in keyof Optics]?: Optics[K] | undefined };

/** What is known of each scene's light, as it is typed; it goes the way of the patches to the server. */
export function useOptics(sessionId: string, save: ReturnType<typeof usePatches>['save']) {
  const [typed, setTyped] = useState<Readonly<Record<string, OpticsChange>>>({});
  const opticsOf = (scene: Scene): OpticsChange => typed[scene.id] ?? scene.optics ?? {};
  function change(scene: Scene, part: OpticsChange) {
    const next = { ...opticsOf(scene), ...part };
    setTyped((now) => ({ ...now, [scene.id]: next }));
    const changes = Object.fromEntries(Object.entries(next).map(([key, value]) => [key, value ?? null]));
    save(`light of ${scene.id}`, () => editOpticsAction(sessionId, scene.id, changes));
  }
  return { opticsOf, change };
}
