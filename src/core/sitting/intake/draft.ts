/** From loose pictures with a filter and an exposure each to a session document. */
import { parseKitShorthand } from '../kits/shorthand';
import type { Response, Session } from '../../session/schema';

/** What a bench's pictures show. */
export const DRAFT_SCENES = ['chart', 'flat', 'flare', 'screen', 'water', 'sky'] as const;
export type DraftScene = (typeof DRAFT_SCENES)[number];

/** One dropped picture, as far as it is known. */
export interface DraftPicture {
  path: string;
  scene: DraftScene;
  /** A bare picture of a series at several exposures, from which the response is recovered. */
  bracket: boolean;
  /** Filter id, `null` for bare, `undefined` while unknown. */
  filter: string | null | undefined;
  shutter: string;
  iso: string;
  fNumber: string;
  capturedAt: string | null;
  /** Ring angle in degrees and mark, as typed; empty where there is none. */
  ringDegrees?: string;
  mark?: string;
  /** Path of the telemetry beside a clip: it knows the exposure. */
  telemetry?: string;
}

export interface Draft {
  title: string;
  kitName: string;
  shorthand: string;
  apertureFixed: boolean;
  response: Response;
  /** What the chosen rig gives beside: its camera, its check. */
  rig?: Partial<Session['rig']>;
  pictures: DraftPicture[];
}

/** A curve needs at least this many exposures. */
const FEWEST_BRACKETS = 3;

/** What still has to be said before a session can be made, one sentence each. */
export function missingInDraft(draft: Draft): string[] {
  const missing: string[] = [];
  const { filters, problems } = parseKitShorthand(draft.shorthand);
  if (filters.length === 0) missing.push('Type the kit, for example ND4 8 16 32 64 CPL.');
  missing.push(...problems.map((problem) => problem.message));
  const unknown = draft.pictures.filter((picture) => picture.filter === undefined).length;
  if (unknown > 0)
    missing.push(`Say which filter ${unknown === 1 ? 'one picture was' : `${unknown} pictures were`} shot with.`);
  if (draft.pictures.length > 0 && unknown === 0 && !draft.pictures.some((picture) => picture.filter === null))
    missing.push('None of the pictures is bare: add one with no filter to compare with.');
  const brackets = draft.pictures.filter((picture) => picture.bracket).length;
  if (draft.response.kind === 'bracket' && brackets < FEWEST_BRACKETS)
    missing.push(
      `Mark the bare pictures of the bracket (${FEWEST_BRACKETS} or more, at shutters a stop apart), or choose another response.`,
    );
  for (const scene of DRAFT_SCENES) {
    const here = draft.pictures.filter((picture) => picture.scene === scene && !picture.bracket);
    if (unknown === 0 && here.length > 0 && here.some((one) => one.filter) && !here.some((one) => one.filter === null))
      if (draft.pictures.some((picture) => picture.filter === null))
        missing.push(`The scene “${scene}” has no bare picture to compare with.`);
  }
  const exposed = (picture: DraftPicture) =>
    picture.telemetry !== undefined ||
    (picture.shutter !== '' && picture.iso !== '' && (draft.apertureFixed || picture.fNumber !== ''));
  const dark = draft.pictures.filter((picture) => !exposed(picture)).length;
  if (dark > 0) missing.push(`Enter the exposure of ${dark === 1 ? 'one picture' : `${dark} pictures`}.`);
  return missing;
}

/**
 * The session document of a draft. Pictures in a row with one filter and one exposure are repeats of one take.
 */
export function sessionFromDraft(draft: Draft): Record<string, unknown> {
  const { filters } = parseKitShorthand(draft.shorthand);
  const takes: {
    id: string;
    filter: string | null;
    scene: string;
    role?: 'bracket' | 'sweep';
    setting?: { ringDegrees?: number; mark?: number };
    files: string[];
    telemetry?: string;
    capturedAt?: string;
    exposure: Record<string, unknown>;
  }[] = [];
  let last = '';
  for (const picture of inOrder(draft.pictures)) {
    const exposure = {
      ...(picture.shutter === '' ? {} : { shutter: picture.shutter }),
      ...(picture.iso === '' ? {} : { iso: Number(picture.iso) }),
      ...(picture.fNumber === '' ? {} : { fNumber: Number(picture.fNumber) }),
    };
    const setting = settingOf(picture);
    const key = JSON.stringify([picture.filter, picture.scene, picture.bracket, exposure, picture.telemetry, setting]);
    if (key === last) takes[takes.length - 1].files.push(picture.path);
    else {
      const scene = picture.scene === 'chart' ? '' : `${picture.scene}-`;
      const name = `${scene}${picture.bracket ? 'bracket' : (picture.filter ?? 'bare')}`;
      const count = takes.filter((take) => take.id.replace(/-\d+$/, '') === name).length + 1;
      takes.push({
        id: `${name}-${count}`,
        filter: picture.filter ?? null,
        scene: picture.scene,
        ...(picture.bracket ? { role: 'bracket' as const } : setting ? { role: 'sweep' as const, setting } : {}),
        files: [picture.path],
        ...(picture.telemetry === undefined ? {} : { telemetry: picture.telemetry }),
        ...(picture.capturedAt ? { capturedAt: picture.capturedAt } : {}),
        exposure,
      });
    }
    last = key;
  }
  return {
    format: 'aurora-glade-session',
    version: 1,
    title: draft.title.trim() || 'Untitled session',
    rig: { aperture: draft.apertureFixed ? 'fixed' : 'variable', response: draft.response, ...draft.rig },
    kits: [{ id: 'kit', name: draft.kitName.trim() || 'Kit', filters }],
    scenes: DRAFT_SCENES.filter((scene) => takes.some((take) => take.scene === scene)).map((scene) => ({
      id: scene,
      kind: scene,
    })),
    takes,
    // Regions proposes where to measure.
    patches: [],
  };
}

/** What a filter's ring stood at; bare takes have none. */
function settingOf({ filter, ringDegrees = '', mark = '' }: DraftPicture) {
  if (filter === null || (ringDegrees === '' && mark === '')) return null;
  return {
    ...(ringDegrees === '' ? {} : { ringDegrees: Number(ringDegrees) }),
    ...(mark === '' ? {} : { mark: Number(mark) }),
  };
}

/** By time where every picture has one, else as dropped. */
function inOrder(pictures: DraftPicture[]): DraftPicture[] {
  if (!pictures.every((picture) => picture.capturedAt)) return pictures;
  return [...pictures].sort((a, b) => Date.parse(a.capturedAt!) - Date.parse(b.capturedAt!));
}
