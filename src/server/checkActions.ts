'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { cameraCheckSchema, type CameraCheck } from '@/core/session/cameraCheck';
import { latestReadings, readRig, ShelfError, writeRig } from '@/store';
import { AskedError, attempt, idSchema, taken, type ActionResult } from './asked';

const profileSchema = z.number().int().min(0).max(200);
const MOST_CHARACTERS = 2_000_000;

/** Keeps the check that a session of bare pictures gave with a rig's profile; the one before stays beside it. */
export async function keepCheckAction(rig: string, profile: number, session: string): Promise<ActionResult> {
  return attempt(async () => {
    const found = (await latestReadings(taken(idSchema, session)))?.readings.check;
    if (!found) throw new AskedError('These pictures gave no check.');
    await keep(rig, profile, cameraCheckSchema.parse(found));
  });
}

/** Takes in a check from its file. */
export async function takeInCheckAction(rig: string, profile: number, text: string): Promise<ActionResult> {
  return attempt(async () => {
    await keep(rig, profile, checkFrom(taken(z.string().max(MOST_CHARACTERS), text)));
  });
}

/** Takes a profile's check away: later sessions count its curve as unknown again. */
export async function dropCheckAction(rig: string, profile: number): Promise<ActionResult> {
  return attempt(() => keep(rig, profile, null));
}

function checkFrom(text: string): CameraCheck {
  let json: unknown;
  try {
    json = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch {
    throw new AskedError('This file isn’t JSON: choose the one that “JSON” of a check gave.');
  }
  const parsed = cameraCheckSchema.safeParse(json);
  if (!parsed.success) throw new AskedError(parsed.error.issues[0].message);
  return parsed.data;
}

async function keep(rig: string, profile: number, check: CameraCheck | null): Promise<void> {
  const kept = await readRig(taken(idSchema, rig));
  const index = taken(profileSchema, profile);
  const own = kept?.item.profiles[index];
  if (!kept || !own) throw new ShelfError('This rig or its profile is not there any more.');
  const { check: earlier, before, ...rest } = own;
  const profiles = kept.item.profiles.map((one, i) =>
    i !== index
      ? one
      : check
        ? { ...rest, check, ...((earlier ?? before) ? { before: earlier ?? before } : {}) }
        : rest,
  );
  await writeRig({ ...kept.item, profiles }, { id: kept.id, revision: kept.revision });
  revalidatePath(`/rigs/${kept.id}`);
}
