/** What a session lacks before anything of it can be measured. */
import { patchesOfScene } from '../../session/parse';
import type { Session } from '../../session/schema';

/** In words, and the stage where it can be put right. */
export interface Missing {
  what: 'pictures' | 'places' | 'bare';
  words: string;
  stage: 'footage' | 'regions';
  /** What to do there. */
  step: string;
}

/** The first thing that is missing; `null` where measuring may begin. */
export function missingFor(session: Session): Missing | null {
  const shot = session.takes.filter((take) => take.files.length > 0);
  if (shot.length === 0)
    return { what: 'pictures', words: 'There are no pictures to measure yet.', stage: 'footage', step: 'Add pictures' };
  const scenes = new Set(shot.map((take) => take.scene));
  if (![...scenes].some((scene) => patchesOfScene(session, scene).length > 0))
    return {
      what: 'places',
      words: 'Nothing says yet where to measure: a gray patch has to be placed first.',
      stage: 'regions',
      step: 'Place the gray patch',
    };
  if (!shot.some((take) => take.filter === null))
    return {
      what: 'bare',
      words: 'There is no bare picture: what a filter takes is told against one without it.',
      stage: 'footage',
      step: 'Add bare pictures',
    };
  return null;
}
