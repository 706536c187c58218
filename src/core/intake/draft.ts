/** From loose pictures with a filter and an exposure each to a session document. */
import { parseKitShorthand } from '../labels';

/** One dropped picture, as far as it is known. */
export interface DraftPicture {
  path: string;
  /** Filter id, `null` for bare, `undefined` while unknown. */
  filter: string | null | undefined;
  shutter: string;
  iso: string;
  fNumber: string;
  capturedAt: string | null;
}

export interface Draft {
  title: string;
  kitName: string;
  shorthand: string;
  apertureFixed: boolean;
  response: string;
  pictures: DraftPicture[];
}

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
  const exposed = (picture: DraftPicture) =>
    picture.shutter !== '' && picture.iso !== '' && (draft.apertureFixed || picture.fNumber !== '');
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
    files: string[];
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
    const key = JSON.stringify([picture.filter, exposure]);
    if (key === last) takes[takes.length - 1].files.push(picture.path);
    else {
      const name = picture.filter ?? 'bare';
      const count = takes.filter((take) => (take.filter ?? 'bare') === name).length + 1;
      takes.push({
        id: `${name}-${count}`,
        filter: picture.filter ?? null,
        scene: 'chart',
        files: [picture.path],
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
    rig: { aperture: draft.apertureFixed ? 'fixed' : 'variable', response: { kind: draft.response } },
    kits: [{ id: 'kit', name: draft.kitName.trim() || 'Kit', filters }],
    scenes: [{ id: 'chart', kind: 'chart' }],
    takes,
    patches: [{ id: 'gray', scene: 'chart', role: 'neutral', rect: { x: 0.44, y: 0.42, width: 0.12, height: 0.16 } }],
  };
}

/** By time where every picture has one, else as dropped. */
function inOrder(pictures: DraftPicture[]): DraftPicture[] {
  if (!pictures.every((picture) => picture.capturedAt)) return pictures;
  return [...pictures].sort((a, b) => Date.parse(a.capturedAt!) - Date.parse(b.capturedAt!));
}
