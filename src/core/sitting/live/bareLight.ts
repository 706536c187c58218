/** The light over a sitting, by its bare pictures as they come in: rough, by whole pictures, to be seen at a glance. */
import { exposureOf, type Footage } from '../checks/check';
import { lightOf } from '../intake/look';

export interface LightPoint {
  scene: string;
  take: string;
  /** ISO 8601; `null` where nothing tells. */
  at: string | null;
  /** Against the scene's first bare picture. */
  stops: number;
}

/** Bare pictures of every scene, in the session's order; darker ones of a bracket are left out, since their curve isn't known yet. */
export function bareLight(footage: Footage): LightPoint[] {
  const first = new Map<string, number>();
  return footage.session.takes.flatMap((take) => {
    if (take.filter !== null || take.role === 'bracket') return [];
    return take.files.flatMap((path): LightPoint[] => {
      const file = footage.files.get(path);
      const exposure = file && exposureOf(take, file, footage);
      if (!file?.look || exposure === null || exposure === undefined) return [];
      const [, green] = lightOf(file.look, footage.decode(file.facts), file.facts.bitDepth);
      if (!(green > 0)) return [];
      const level = Math.log2(green) - exposure;
      if (!first.has(take.scene)) first.set(take.scene, level);
      const at = take.capturedAt ?? file.facts.capturedAt;
      return [{ scene: take.scene, take: take.id, at, stops: level - first.get(take.scene)! }];
    });
  });
}
