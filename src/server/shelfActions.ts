'use server';

import { parse } from 'csv-parse/sync';
import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { kitsOfRows } from '@/core/sitting/kits/kitsTable';
import type { KeptKit } from '@/core/sitting/kits/keptKit';
import type { KeptRig } from '@/core/sitting/kits/keptRig';
import { putKitAway, putRigAway, readKit, readRig, writeKit, writeRig } from '@/store';
import { attempt, idSchema, taken, type ActionResult } from './asked';
import { fromText } from './csv';

export type Kept = { ok: true; id: string; revision: number } | { ok: false; error: string };

const placeSchema = z.object({ id: idSchema, revision: z.number().int().min(0) });
type Place = z.infer<typeof placeSchema>;

async function keep(work: () => Promise<{ id: string; revision: number }>): Promise<Kept> {
  return attempt(async () => {
    const { id, revision } = await work();
    revalidatePath('/kits');
    return { id, revision };
  });
}

/** Puts a kit on the shelf, or writes a changed one. What a kit must be, the shelf itself says. */
export async function keepKitAction(kit: unknown, place?: Place): Promise<Kept> {
  return keep(() => writeKit(kit, taken(placeSchema.optional(), place)));
}

/** Puts a rig on the shelf, or writes a changed one. */
export async function keepRigAction(rig: unknown, place?: Place): Promise<Kept> {
  return keep(() => writeRig(rig, taken(placeSchema.optional(), place)));
}

/** A kit of the shelf; `null` where it is not there any more. */
export async function kitAction(id: string): Promise<KeptKit | null> {
  return (await readKit(taken(idSchema, id)))?.item ?? null;
}

/** A rig of the shelf; `null` where it is not there any more. */
export async function rigAction(id: string): Promise<KeptRig | null> {
  return (await readRig(taken(idSchema, id)))?.item ?? null;
}

/** Puts a kit or rig away for 30 days, or brings it back. */
export async function putAwayFromShelfAction(what: 'kit' | 'rig', id: string, gone: boolean): Promise<ActionResult> {
  return attempt(async () => {
    const [entry, away] = [taken(idSchema, id), taken(z.boolean(), gone)];
    await (taken(z.enum(['kit', 'rig']), what) === 'kit' ? putKitAway(entry, away) : putRigAway(entry, away));
    revalidatePath('/kits');
  });
}

export interface Imported {
  kits: number;
  filters: number;
  /** What could not be read, a sentence each. */
  problems: string[];
}

const MOST_CHARACTERS = 5_000_000;
const MOST_PROBLEMS = 20;

/** Takes in kits of a CSV or JSON file, or of a session file. What can be read is kept, the rest told. */
export async function importKitsAction(text: string): Promise<Imported> {
  const { kits, problems } = typeof text === 'string' ? readKits(text) : { kits: [], problems: ['This is no text.'] };
  const result: Imported = { kits: 0, filters: 0, problems };
  for (const kit of kits) {
    const kept = await keepKitAction(kit);
    if (!kept.ok) {
      const { name } = kit as { name?: unknown };
      problems.push(`${typeof name === 'string' ? name : 'A kit'}: ${kept.error}`);
      continue;
    }
    result.kits++;
    result.filters += (kit as { filters: unknown[] }).filters.length;
  }
  result.problems = problems.slice(0, MOST_PROBLEMS);
  if (problems.length > MOST_PROBLEMS) result.problems.push(`and ${problems.length - MOST_PROBLEMS} more.`);
  return result;
}

function readKits(text: string): { kits: unknown[]; problems: string[] } {
  if (text.length > MOST_CHARACTERS) return { kits: [], problems: ['The file is too large to be a list of kits.'] };
  const trimmed = text.replace(/^\uFEFF/, '').trim();
  if (/^[[{]/.test(trimmed)) {
    try {
      const document = JSON.parse(trimmed) as Record<string, unknown>;
      const kits = Array.isArray(document.kits)
        ? document.kits
        : document.kit
          ? [document.kit]
          : Array.isArray(document.filters)
            ? [document]
            : [];
      return { kits, problems: kits.length === 0 ? ['There are no kits in this file.'] : [] };
    } catch (error) {
      return { kits: [], problems: [`The file looks like JSON and can’t be read: ${(error as Error).message}.`] };
    }
  }
  try {
    const first = trimmed.split('\n', 1)[0];
    const delimiter = first.includes('\t') ? '\t' : first.includes(';') ? ';' : ',';
    const parsed = parse(trimmed, { delimiter, relaxColumnCount: true, skipEmptyLines: true }) as string[][];
    const rows = parsed.map((row) => row.map(fromText));
    return kitsOfRows(rows);
  } catch (error) {
    return { kits: [], problems: [`The file can’t be read as CSV: ${(error as Error).message}.`] };
  }
}
