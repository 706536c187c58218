/** The shelf: kits, rigs, other people's benches and reports, kept for more than one sitting. A session carries copies of its own. */
import { randomUUID } from 'node:crypto';
import type { ModelStatic, Transaction } from 'sequelize';
import { z } from 'zod';
import { keptKitSchema, type KeptKit } from '@/core/sitting/kits/keptKit';
import { keptRigSchema, type KeptRig } from '@/core/sitting/kits/keptRig';
import { otherBenchSchema, type OtherBench } from '@/core/judging/agreement/otherBench';
import { reportSchema, type Report } from '@/core/exports/report';
import { atomically, store } from './database';
import type { Json, KeptModel } from './models';

/** Something of the shelf that can't be read or written, with a sentence for people. */
export class ShelfError extends Error {}

export interface OnShelf<T> {
  id: string;
  revision: number;
  item: T;
}

export interface ShelfSummary {
  id: string;
  name: string;
  /** Filters of a kit, lenses of a rig. */
  items: number;
  updatedAt: Date;
}

interface Shelf<T> {
  model: () => ModelStatic<KeptModel>;
  schema: z.ZodType<T>;
  what: string;
  nameOf: (item: T) => string;
  itemsOf: (item: T) => number;
  /** Stored files that it shows. */
  filesOf: (item: T) => string[];
}

const KITS: Shelf<KeptKit> = {
  model: () => store().models.ShelfKit,
  schema: keptKitSchema,
  what: 'kit',
  nameOf: (kit) => kit.name ?? kit.id,
  itemsOf: (kit) => kit.filters.length,
  filesOf: (kit) => kit.filters.flatMap((filter) => (filter.photos ?? []).map((photo) => photo.sha256)),
};

const RIGS: Shelf<KeptRig> = {
  model: () => store().models.ShelfRig,
  schema: keptRigSchema,
  what: 'rig',
  nameOf: (rig) => rig.camera,
  itemsOf: (rig) => rig.lenses.length,
  filesOf: () => [],
};

const BENCHES: Shelf<OtherBench> = {
  model: () => store().models.OtherBench,
  schema: otherBenchSchema,
  what: 'bench',
  nameOf: (bench) => bench.name,
  itemsOf: (bench) => bench.filters.length,
  filesOf: () => [],
};

const REPORTS: Shelf<Report> = {
  model: () => store().models.Report,
  schema: reportSchema,
  what: 'report',
  nameOf: (report) => report.title,
  itemsOf: (report) => report.sessions.length,
  filesOf: () => [],
};

const MOST_LISTED = 1000;

async function list<T>({ model }: Shelf<T>): Promise<ShelfSummary[]> {
  const rows = await model().findAll({
    where: { deletedAt: null },
    attributes: ['id', 'name', 'items', 'updatedAt'],
    order: [
      ['updatedAt', 'DESC'],
      ['id', 'ASC'],
    ],
    limit: MOST_LISTED,
  });
  return rows.map(({ id, name, items, updatedAt }) => ({ id, name, items, updatedAt }));
}

async function read<T>({ model, schema }: Shelf<T>, id: string): Promise<OnShelf<T> | null> {
  const row = await model().findOne({ where: { id, deletedAt: null } });
  return row ? { id, revision: row.revision, item: schema.parse(row.data) } : null;
}

/**
 * Puts a kit or rig on the shelf, or writes a changed one.
 *
 * @param place id and revision that the change was made on; left out for a new one
 * @throws ShelfError where it isn't one, was put away, or was changed in another window meanwhile
 */
async function write<T>(shelf: Shelf<T>, item: unknown, place?: { id: string; revision: number }): Promise<OnShelf<T>> {
  const parsed = shelf.schema.safeParse(item);
  if (!parsed.success) throw new ShelfError(sentenceOf(parsed.error));
  const row = {
    name: shelf.nameOf(parsed.data).slice(0, 190) || `Unnamed ${shelf.what}`,
    data: parsed.data as Json,
    items: shelf.itemsOf(parsed.data),
  };
  return atomically(async (transaction) => {
    const id = place?.id ?? randomUUID();
    const revision = (place?.revision ?? 0) + 1;
    if (!place) await shelf.model().create({ id, ...row, revision }, { transaction });
    else {
      const [changed] = await shelf
        .model()
        .update({ ...row, revision }, { where: { id, revision: place.revision, deletedAt: null }, transaction });
      if (changed === 0)
        throw new ShelfError(
          `This ${shelf.what} was changed in another window, or put away. Load the page again; what you typed last was not kept.`,
        );
    }
    if (shelf === (KITS as unknown)) await notePhotos(id, shelf.filesOf(parsed.data), transaction);
    return { id, revision, item: parsed.data };
  });
}

/** Photos keep their files from the purge. */
async function notePhotos(kitId: string, hashes: readonly string[], transaction: Transaction): Promise<void> {
  const { ShelfPhoto, File } = store().models;
  await ShelfPhoto.destroy({ where: { kitId }, transaction });
  const wanted = [...new Set(hashes)];
  if (wanted.length === 0) return;
  const known = await File.findAll({ where: { sha256: wanted }, attributes: ['sha256'], transaction });
  await ShelfPhoto.bulkCreate(
    known.map(({ sha256 }) => ({ kitId, sha256 })),
    { transaction },
  );
}

function sentenceOf(error: z.ZodError): string {
  const { path, message } = error.issues[0];
  return path.length > 0 ? `${path.join(' ')}: ${message}` : message;
}

async function putAway<T>({ model }: Shelf<T>, id: string, gone: boolean): Promise<void> {
  await model().update({ deletedAt: gone ? new Date() : null }, { where: { id } });
}

/** Kits of the shelf, last changed first. */
export const listKits = () => list(KITS);
export const readKit = (id: string) => read(KITS, id);
export const writeKit = (kit: unknown, place?: { id: string; revision: number }) => write(KITS, kit, place);
/** Puts a kit away for 30 days, or brings it back. */
export const putKitAway = (id: string, gone: boolean) => putAway(KITS, id, gone);

/** All kits, whole; for taking them away as a file. */
export async function allKits(): Promise<KeptKit[]> {
  const rows = await store().models.ShelfKit.findAll({ where: { deletedAt: null }, order: [['name', 'ASC']] });
  return rows.map((row) => keptKitSchema.parse(row.data));
}

/** All kits, whole, with where they stand on the shelf; last changed first. */
export async function wholeKits(): Promise<OnShelf<KeptKit>[]> {
  const rows = await store().models.ShelfKit.findAll({ where: { deletedAt: null }, order: [['updatedAt', 'DESC']] });
  return rows.map(({ id, revision, data }) => ({ id, revision, item: keptKitSchema.parse(data) }));
}

/** All rigs, whole. */
export async function allRigs(): Promise<OnShelf<KeptRig>[]> {
  const rows = await store().models.ShelfRig.findAll({ where: { deletedAt: null }, order: [['name', 'ASC']] });
  return rows.map(({ id, revision, data }) => ({ id, revision, item: keptRigSchema.parse(data) }));
}

/** Rigs of the shelf, last changed first. */
export const listRigs = () => list(RIGS);
export const readRig = (id: string) => read(RIGS, id);
export const writeRig = (rig: unknown, place?: { id: string; revision: number }) => write(RIGS, rig, place);
export const putRigAway = (id: string, gone: boolean) => putAway(RIGS, id, gone);

/** All benches of other people, whole. */
export async function allBenches(): Promise<OnShelf<OtherBench>[]> {
  const rows = await store().models.OtherBench.findAll({ where: { deletedAt: null }, order: [['name', 'ASC']] });
  return rows.map(({ id, revision, data }) => ({ id, revision, item: otherBenchSchema.parse(data) }));
}

/** Takes a bench in. @throws ShelfError where one of that name is there: figures of two under one name would be taken for one's */
export async function writeBench(bench: unknown): Promise<OnShelf<OtherBench>> {
  const name = otherBenchSchema.safeParse(bench).data?.name;
  if (name !== undefined && (await store().models.OtherBench.count({ where: { name, deletedAt: null } })) > 0)
    throw new ShelfError(`There is a bench “${name}” already: put it away first, or give this one another name.`);
  return write(BENCHES, bench);
}
/** Puts a bench away for 30 days, or brings it back. */
export const putBenchAway = (id: string, gone: boolean) => putAway(BENCHES, id, gone);

/** Reports, last changed first. */
export const listReports = () => list(REPORTS);
export const readReport = (id: string) => read(REPORTS, id);
export const writeReport = (report: unknown, place?: { id: string; revision: number }) => write(REPORTS, report, place);
export const putReportAway = (id: string, gone: boolean) => putAway(REPORTS, id, gone);
