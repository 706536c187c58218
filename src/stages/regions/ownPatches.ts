import type { Patch, Rect } from '@/core/session/schema';

/** Where a patch lies and what it measures; `null` for one that isn't there. */
type Stand = { rect: Rect; role: Patch['role'] } | null;

/** States of a patch that are remembered as this page's own: an answer that got lost leaves the server at one of them. */
const MOST_SEEN = 20;

/** What this page has shown and sent of each patch, so that its own changes aren't taken for somebody else's. */
export class OwnPatches {
  private readonly seen = new Map<string, Stand[]>();
  private readonly names = new Map<string, string>();

  constructor(patches: readonly Patch[]) {
    for (const { id, rect, role } of patches) this.seen.set(id, [{ rect, role }]);
  }

  /** A state that is sent. @returns what was shown or sent before it */
  send(id: string, to: Stand): Stand[] {
    const before = this.seen.get(id) ?? [null];
    this.seen.set(id, [...before, to].slice(-MOST_SEEN));
    return before;
  }

  /** The id under which the server has a patch: another where two windows drew one of the same name. */
  nameOf(id: string): string {
    return this.names.get(id) ?? id;
  }

  rename(id: string, kept: string): void {
    if (kept !== this.nameOf(id)) this.names.set(id, kept);
  }
}
