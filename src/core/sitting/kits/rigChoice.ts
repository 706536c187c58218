/** Which rig and profile footage was shot with: chosen, or told by the files where a check of that camera is kept. */
import { greatest } from 'd3-array';
import { toldBy, whyRefused } from '../../light/camera/check';
import type { PictureFacts } from '../../reading/facts';
import type { CameraCheck } from '../../session/cameraCheck';
import type { Response } from '../../session/schema';
import type { KeptRig } from './keptRig';

/** A profile of a rig, without its check's many numbers. */
export interface RigChoice {
  rig: string;
  profile: number;
  camera: string;
  name: string;
  response: Response;
  check?: Pick<CameraCheck, 'checkedAt' | 'settings' | 'file'>;
}

/** The profiles of a rig, to choose from. */
export function choicesOf(rig: string, { camera, profiles }: KeptRig): RigChoice[] {
  return profiles.map(({ name, response, check }, profile) => ({
    rig,
    profile,
    camera,
    name,
    response,
    ...(check ? { check: { checkedAt: check.checkedAt, settings: check.settings, file: check.file } } : {}),
  }));
}

/** Why a choice's check doesn't stand for some files, in words; empty where it does, or where it has none. */
export function refusedFor({ check }: RigChoice, files: readonly PictureFacts[]): string[] {
  return check ? [...new Set(files.flatMap((facts) => whyRefused(check, toldBy(facts))))] : [];
}

/** The choice whose checked camera all files name as theirs, the last checked of several; `null` where none does. */
export function choiceByFiles(choices: readonly RigChoice[], files: readonly PictureFacts[]): RigChoice | null {
  const fitting = choices.filter(
    (one) =>
      one.check?.settings.model !== undefined &&
      files.length > 0 &&
      files.every(({ encoding }) => encoding.settings?.model === one.check!.settings.model) &&
      refusedFor(one, files).length === 0,
  );
  return greatest(fitting, ({ check }) => Date.parse(check!.checkedAt)) ?? null;
}
