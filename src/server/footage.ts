/** What the stage Footage shows of a session: its files with their looks, and what is worth saying of them. */
import { checkFootage } from '@/core/sitting/checks/footageChecks';
import type { Check, CheckedFile, Footage } from '@/core/sitting/checks/check';
import type { Strengths } from '@/core/sitting/live/byLabel';
import { roughStrengths } from '@/core/sitting/live/rough';
import { bareLight, type LightPoint } from '@/core/sitting/live/bareLight';
import { parseShutter } from '@/core/formulas/optics/exposure';
import { exposureBeside, toLay, type ArrivedFile } from '@/core/sitting/intake/arrived';
import { layFiles } from '@/core/sitting/intake/layFiles';
import { firstOfEachKind, placesByOrder, spreadInOrder } from '@/core/sitting/intake/byPlan';
import { sessionSpots } from '@/core/sitting/intake/spots';
import type { KnownFile, LaidFile } from '@/core/sitting/intake/laidFile';
import { resolveResponse, responseAtHand } from '@/core/light/response';
import type { ClipLook, Look } from '@/core/sitting/intake/look';
import type { Session } from '@/core/session/schema';
import type { Cue } from '@/core/session/subrip';
import { loadSession, storedFiles, visibleDamageOf, type LoadedSession, type StoredFile } from '@/store';

/** Steps of a small histogram. */
const BARS = 48;

/** A file as a tile shows it. */
export interface TileFile {
  sha256: string | null;
  /** Size, kind, exposure. */
  facts: string;
  /** Where exposure and time were taken from. */
  from: string;
  /** Heights 0–1 of R, G, B. */
  histogram: number[][] | null;
  moments: ClipLook['moments'];
}

export interface FootageView {
  tiles: Record<string, TileFile>;
  checks: Check[];
}

/** Checks and tiles of a session. Throws NoSuchSession. */
export async function loadFootage(sessionId: string): Promise<FootageView> {
  const loaded = await loadSession(sessionId);
  const stored = await storedFiles([...loaded.files.values()]);
  const footage = footageOf(loaded, stored);
  const damage = new Map(
    await Promise.all([...stored.values()].map(async (one) => [one.sha256, await visibleDamageOf(one)] as const)),
  );
  const tiles = Object.fromEntries(
    loaded.session.takes.flatMap((take) =>
      take.files.map((path) => {
        const sha256 = loaded.files.get(path) ?? null;
        const tile = tileOf(sha256, sha256 === null ? undefined : stored.get(sha256), take);
        return [path, { ...tile, facts: damage.get(sha256 ?? '') ?? tile.facts }] as const;
      }),
    ),
  );
  return { tiles, checks: checkFootage(footage) };
}

/** What is worth saying of a session's files, and the light by its bare ones. */
export async function seenSoFar(
  loaded: LoadedSession,
): Promise<{ checks: Check[]; light: LightPoint[]; rough: Strengths }> {
  const footage = footageOf(loaded, await storedFiles([...loaded.files.values()]));
  return { checks: checkFootage(footage), light: bareLight(footage), rough: roughStrengths(footage) };
}

function footageOf({ session, files }: LoadedSession, stored: ReadonlyMap<string, StoredFile>): Footage {
  const checked = new Map<string, CheckedFile>();
  const telemetry = new Map<string, readonly Cue[]>();
  for (const [path, sha256] of files) {
    const facts = stored.get(sha256)?.facts;
    if (facts?.readable) checked.set(path, { facts: facts.picture, look: facts.look ?? null });
    else if (facts?.telemetry) telemetry.set(path, facts.telemetry);
  }
  const { response } = session.rig;
  return {
    session,
    files: checked,
    telemetry,
    decode: ({ encoding }) => resolveResponse(responseAtHand(response, encoding), encoding, () => '').decode,
  };
}

function tileOf(sha256: string | null, stored: StoredFile | undefined, take: Session['takes'][number]): TileFile {
  const facts = stored?.facts;
  if (!facts?.readable) return { sha256, facts: facts?.reason ?? 'not there', from: '', histogram: null, moments: [] };
  const { picture, look } = facts;
  const kind = picture.clip
    ? `${picture.clip.codec}, ${picture.clip.seconds.toFixed(1)} s, ${picture.clip.framesPerSecond.toFixed(2)} fps`
    : picture.raw
      ? 'raw'
      : `${picture.bitDepth} bit`;
  const own = picture.exposure;
  const said = take.exposure;
  const shutter =
    said.shutter !== undefined ? 'the session' : own.shutterSeconds ? 'the file' : take.telemetry ? 'telemetry' : null;
  const time = take.capturedAt !== undefined ? 'the session' : picture.capturedAt ? 'the file' : null;
  return {
    sha256,
    facts: `${picture.width} × ${picture.height}, ${kind}`,
    from: `exposure from ${shutter ?? 'nowhere'}, time from ${time ?? 'the order'}`,
    histogram: look ? barsOf(look) : null,
    moments: look && 'moments' in look ? look.moments : [],
  };
}

/** Square roots of counts: small shares stay visible. */
function barsOf(look: Look): number[][] {
  const bars = look.histogram.map((bins) =>
    Array.from({ length: BARS }, (_, i) => {
      const [from, to] = [Math.floor((256 * i) / BARS), Math.floor((256 * (i + 1)) / BARS)];
      return Math.sqrt(bins.slice(from, to).reduce((sum, n) => sum + n, 0));
    }),
  );
  const top = Math.max(1, ...bars.flat());
  return bars.map((channel) => channel.map((height) => Math.round((100 * height) / top) / 100));
}

/** Lays arrived files on a session's takes. Throws NoSuchSession. */
export async function layOnSession(
  sessionId: string,
  arrived: readonly { path: string; sha256: string }[],
): Promise<{ laid: LaidFile[]; files: ArrivedFile[]; clockOffsetSeconds: number | null }> {
  const loaded = await loadSession(sessionId);
  const { session } = loaded;
  const stored = await storedFiles([...loaded.files.values(), ...arrived.map((one) => one.sha256)]);
  const files = arrived.flatMap(({ path, sha256 }): ArrivedFile[] => {
    const file = stored.get(sha256);
    return file ? [{ path, stored: file }] : [];
  });
  const filters = session.kits.flatMap((kit) =>
    kit.filters.map((filter) => ({ ...filter, name: filter.name ?? filter.id })),
  );
  const own = [...loaded.files].flatMap(([path, sha256]): ArrivedFile[] => {
    const file = stored.get(sha256);
    return file ? [{ path, stored: file }] : [];
  });
  const known = session.takes.flatMap((take): KnownFile[] => {
    if (take.role === 'bracket') return [];
    const { shutter, iso, fNumber } = take.exposure;
    const shutterSeconds = shutter === undefined ? null : parseShutter(shutter);
    return take.files.flatMap((path) => {
      const file = own.find((one) => one.path === path);
      if (!file?.stored.facts.readable) return [];
      const exposure = {
        ...exposureBeside(file, own),
        ...(shutterSeconds !== null && { shutterSeconds }),
        ...(iso !== undefined && { iso }),
        ...(fNumber !== undefined && { fNumber }),
      };
      const laid = toLay(file, exposure, session.rig.response);
      return [{ ...laid, filter: take.filter, scene: take.scene }];
    });
  });
  const pictures = files.filter((file) => file.stored.facts.readable);
  const toBeLaid = pictures.map((file) => toLay(file, exposureBeside(file, files), session.rig.response));
  const places = firstOfEachKind(sessionSpots(session), session);
  const byOrder = placesByOrder(toBeLaid, places, session);
  const { files: laid, clockOffsetSeconds } = layFiles(toBeLaid, places, filters, known, byOrder);
  return { laid: spreadInOrder(laid, toBeLaid, session), files: pictures, clockOffsetSeconds };
}
