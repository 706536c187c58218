/** Reads session files: problems are named by their key path, one sentence each. */
import type { z } from 'zod';
import { tooMany, tooMuchText } from './limits';
import { sessionSchema, type Patch, type Session } from './schema';

/** A session that can't be read; `problems` holds one clear line each. */
export class SessionError extends Error {
  constructor(readonly problems: string[]) {
    super(problems.join('\n'));
    this.name = 'SessionError';
  }
}

/** `takes[3].exposure.shutter`, or "session" for the whole file. */
export function keyPath(path: readonly PropertyKey[]): string {
  const joined = path.reduce<string>(
    (text, key) => (typeof key === 'number' ? `${text}[${key}]` : text === '' ? String(key) : `${text}.${String(key)}`),
    '',
  );
  return joined === '' ? 'session' : joined;
}

/** One line a problem, from a Zod error. */
export function describeIssues(error: z.ZodError): string[] {
  return error.issues.map((issue) => `${keyPath(issue.path)}: ${issue.message}`);
}

/**
 * A session from parsed JSON, defaults filled in, `kit` read as a list of one.
 * Throws {@link SessionError} with every problem found.
 */
export function parseSession(json: unknown): Session {
  const document = withKits(json);
  const many = tooMany(document);
  if (many.length > 0) throw new SessionError(many.map((one) => `session: ${one}`));
  const result = sessionSchema.safeParse(document);
  if (!result.success) throw new SessionError(describeIssues(result.error));
  return result.data;
}

/** A session from the text of its file. Throws {@link SessionError}. */
export function parseSessionText(text: string): Session {
  const much = tooMuchText(text);
  if (much !== null) throw new SessionError([`session: ${much}`]);
  let json: unknown;
  try {
    json = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    throw new SessionError([`session: this isn’t JSON (${(error as Error).message})`]);
  }
  return parseSession(json);
}

/** A document whose one `kit` stands in a list, as others have theirs; anything else as it is. */
export function withKits<T>(json: T): T {
  if (typeof json !== 'object' || json === null || !('kit' in json) || 'kits' in json) return json;
  const entries = Object.entries(json).map(([key, value]) =>
    key === 'kit' ? ['kits', [withId(value)]] : [key, value],
  );
  return Object.fromEntries(entries) as T;
}

/** A kit without an id is called as the schema calls it. */
const withId = (kit: unknown): unknown =>
  typeof kit === 'object' && kit !== null && !Array.isArray(kit) ? { id: 'kit', ...kit } : kit;

/** The patches of a scene; an outdoor scene without any has one `frame` patch over its whole frame. */
export function patchesOfScene(session: Session, sceneId: string): Patch[] {
  const placed = session.patches.filter((patch) => patch.scene === sceneId);
  const scene = session.scenes.find((candidate) => candidate.id === sceneId);
  if (placed.length > 0 || scene?.kind !== 'outdoor') return placed;
  return [{ id: `${sceneId}-frame`, scene: sceneId, role: 'frame', rect: { x: 0, y: 0, width: 1, height: 1 } }];
}
