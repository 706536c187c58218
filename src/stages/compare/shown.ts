/** A picture in the viewing room with what it is seen against. */
import type { ComparedPicture, ComparedSession } from '@/server/compare';

export interface Shown {
  picture: ComparedPicture;
  /** Bare of its own session and scene, that it is laid on and levelled against. */
  bare: ComparedPicture | null;
  session: ComparedSession;
}
