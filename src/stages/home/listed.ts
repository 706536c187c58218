import type { LadderBead } from '@/ui/ladder/layout';
import type { SittingProgress } from '@/core/sitting/planning/progress';
import type { CheckedProfile } from '@/core/sitting/planning/cameraCheck';

/** A session as the first page lists it. */
export interface HomeSession {
  id: string;
  title: string;
  takes: number;
  /** How far its plan is; nothing where it has none, or all of it has footage. */
  plan?: SittingProgress | null;
  filters: number;
  createdAt: string;
  beads: LadderBead[];
  measured: boolean;
  finding: string | null;
  placed: boolean;
  /** The rig's profile that it checks, where it is a camera's check. */
  check?: CheckedProfile | null;
  /** Day of the sitting, ISO 8601; the day it was made where nobody has said. */
  day: string;
  place: string | null;
  kits: string[];
  camera: string | null;
  /** Address of a small picture. */
  picture?: string;
}

export const SORTS = ['newest', 'day of the sitting', 'title'] as const;
export type Sort = (typeof SORTS)[number];

/** What is wanted of the list; empty texts want everything. */
export interface Wanted {
  text: string;
  kit: string;
  camera: string;
  sort: Sort;
}

export const EVERYTHING: Wanted = { text: '', kit: '', camera: '', sort: 'newest' };

/** What an address asks for; what can't be is left out. */
export function wantedOf(asked: Record<string, string | string[] | undefined>): Wanted {
  const one = (name: string) => [asked[name]].flat()[0]?.slice(0, 200) ?? '';
  const sort = SORTS.find((known) => known === one('sort')) ?? EVERYTHING.sort;
  return { text: one('text').trim(), kit: one('kit'), camera: one('camera'), sort };
}

/** The address of a list. @param shown how many are wanted of it */
export function addressOf(wanted: Wanted, shown?: number): string {
  const told = Object.entries(wanted).filter(([name, value]) => value !== EVERYTHING[name as keyof Wanted]);
  const query = new URLSearchParams([...told, ...(shown === undefined ? [] : [['shown', String(shown)]])]);
  return query.size > 0 ? `/?${query}` : '/';
}

/** Whether two lists ask for the same. */
export const isSame = (a: Wanted, b: Wanted): boolean => addressOf(a) === addressOf(b);

const TITLES = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** The sessions that are wanted, in order. Each word of the text must stand somewhere in what is shown of a session. */
export function listed(sessions: readonly HomeSession[], { text, kit, camera, sort }: Wanted): HomeSession[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const found = sessions.filter((one) => {
    const shown = [one.title, one.finding, one.place, one.day, one.camera, ...one.kits].join(' ').toLowerCase();
    return (
      words.every((word) => shown.includes(word)) &&
      (kit === '' || one.kits.includes(kit)) &&
      (camera === '' || one.camera === camera)
    );
  });
  if (sort === 'title') return found.sort((a, b) => TITLES.compare(a.title, b.title));
  if (sort === 'newest') return found;
  return found.sort((a, b) => (a.day < b.day ? 1 : a.day > b.day ? -1 : 0));
}

/** Names as people look for them. */
export const inOrder = (names: readonly string[]): string[] => [...names].sort(TITLES.compare);
