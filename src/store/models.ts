/**
 * Tables as Sequelize models. Entities of the session format keep their own JSON, unknown keys and all, in `data`;
 * columns beside it are what queries need.
 */
import {
  DataTypes,
  Model,
  type InferAttributes,
  type InferCreationAttributes,
  type CreationOptional,
  type ModelStatic,
  type Sequelize,
} from 'sequelize';

export type Json = Record<string, unknown>;

interface Entity<M extends Model> extends Model<InferAttributes<M>, InferCreationAttributes<M>> {
  id: CreationOptional<number>;
  sessionId: string;
  key: string;
  position: number;
  data: Json;
}

export interface RigModel extends Model<InferAttributes<RigModel>, InferCreationAttributes<RigModel>> {
  id: CreationOptional<number>;
  name: string;
  data: Json;
}
export interface SessionModel extends Model<InferAttributes<SessionModel>, InferCreationAttributes<SessionModel>> {
  id: string;
  title: string;
  rigId: number;
  /** Top-level keys of the file that aren't tables of their own, in the file's order. */
  data: Json;
  deletedAt: CreationOptional<Date | null>;
  createdAt: CreationOptional<Date>;
  updatedAt: CreationOptional<Date>;
}
export type KitModel = Entity<KitModel>;
export interface FilterModel extends Entity<FilterModel> {
  kitId: number;
}
export type SceneModel = Entity<SceneModel>;
export interface TakeModel extends Entity<TakeModel> {
  sceneKey: string;
  filterKey: string | null;
}
export interface PatchModel extends Entity<PatchModel> {
  sceneKey: string;
}
/** A media file, stored once under its SHA-256. */
export interface FileModel extends Model<InferAttributes<FileModel>, InferCreationAttributes<FileModel>> {
  sha256: string;
  bytes: number;
  /** What the file says of itself, or why it can't be read. */
  facts: Json;
}
/** Which stored file a path of a session stands for. */
export interface SessionFileModel extends Model<
  InferAttributes<SessionFileModel>,
  InferCreationAttributes<SessionFileModel>
> {
  id: CreationOptional<number>;
  sessionId: string;
  path: string;
  sha256: string;
}
/** A file that has arrived and waits to be laid on a take. */
export interface InboxModel extends Model<InferAttributes<InboxModel>, InferCreationAttributes<InboxModel>> {
  id: CreationOptional<number>;
  path: string;
  sha256: string;
  /** How it came: dropped in the browser, or from a watched folder. */
  source: 'drop' | 'watch';
  createdAt: CreationOptional<Date>;
}
export type JobState = 'queued' | 'running' | 'done' | 'failed' | 'cancelled';
export interface JobModel extends Model<InferAttributes<JobModel>, InferCreationAttributes<JobModel>> {
  id: CreationOptional<number>;
  sessionId: string;
  kind: string;
  state: JobState;
  attempts: number;
  worker: string | null;
  heartbeatAt: Date | null;
  cancelRequested: boolean;
  progress: Json;
  error: string | null;
  /** Number of the request that asked for it. */
  request: string | null;
  createdAt: CreationOptional<Date>;
  updatedAt: CreationOptional<Date>;
}
export interface ReadingsModel extends Model<InferAttributes<ReadingsModel>, InferCreationAttributes<ReadingsModel>> {
  id: CreationOptional<number>;
  sessionId: string;
  jobId: number;
  /** Hash of all that the readings depend on. */
  inputHash: string;
  document: Json;
  createdAt: CreationOptional<Date>;
}

/** A session as an edit left it. */
export interface RevisionModel extends Model<InferAttributes<RevisionModel>, InferCreationAttributes<RevisionModel>> {
  id: CreationOptional<number>;
  sessionId: string;
  /** 1 is the session as it was before its first edit. */
  number: number;
  /** The document's JSON, deflated. */
  document: Buffer;
  /** What the edit did, for people to find it by. */
  changes: Json[];
  /** Who made it, by name; `null` for the desk. */
  author: string | null;
  createdAt: CreationOptional<Date>;
}

/** A kit or a rig that is kept on the shelf. */
export interface KeptModel extends Model<InferAttributes<KeptModel>, InferCreationAttributes<KeptModel>> {
  id: string;
  name: string;
  data: Json;
  /** Filters or lenses, for lists. */
  items: number;
  /** Grows with every change, so that two windows don't overwrite each other. */
  revision: number;
  deletedAt: CreationOptional<Date | null>;
  createdAt: CreationOptional<Date>;
  updatedAt: CreationOptional<Date>;
}
export interface ShelfPhotoModel extends Model<
  InferAttributes<ShelfPhotoModel>,
  InferCreationAttributes<ShelfPhotoModel>
> {
  id: CreationOptional<number>;
  kitId: string;
  sha256: string;
}
/** A phone that may tap on one run sheet. */
export interface PairingModel extends Model<InferAttributes<PairingModel>, InferCreationAttributes<PairingModel>> {
  id: CreationOptional<number>;
  sessionId: string;
  name: CreationOptional<string>;
  /** Of the code that pairs it, and until when that holds. */
  codeHash: string | null;
  codeUntil: Date | null;
  /** Of the secret that the phone got for the code; `null` until it was used. */
  secretHash: CreationOptional<string | null>;
  revokedAt: CreationOptional<Date | null>;
  seenAt: CreationOptional<Date | null>;
  createdAt: CreationOptional<Date>;
}

/** Whoever has its token may read a report, for a while. */
export interface ReportLinkModel extends Model<
  InferAttributes<ReportLinkModel>,
  InferCreationAttributes<ReportLinkModel>
> {
  id: CreationOptional<number>;
  reportId: string;
  token: string;
  until: Date;
}

/** What a reviewer has set, by name. */
export interface SettingModel extends Model<InferAttributes<SettingModel>, InferCreationAttributes<SettingModel>> {
  name: string;
  data: Json;
}
/** A report as it was frozen. */
export interface ReportVersionModel extends Model<
  InferAttributes<ReportVersionModel>,
  InferCreationAttributes<ReportVersionModel>
> {
  id: CreationOptional<number>;
  reportId: string;
  number: number;
  hash: string;
  document: Json;
  createdAt: CreationOptional<Date>;
}

/** Somebody who may sign in. */
export interface AccountModel extends Model<InferAttributes<AccountModel>, InferCreationAttributes<AccountModel>> {
  id: CreationOptional<number>;
  name: string;
  /** The name as it is compared. */
  nameKey: string;
  role: string;
  passwordHash: string;
  createdAt: CreationOptional<Date>;
}

/** A key of a person's device or security key, in place of the password. */
export interface PasskeyModel extends Model<InferAttributes<PasskeyModel>, InferCreationAttributes<PasskeyModel>> {
  id: CreationOptional<number>;
  accountId: number;
  credentialId: string;
  publicKey: Buffer;
  counter: number;
  transports: string;
  name: string;
  usedAt: CreationOptional<Date | null>;
  createdAt: CreationOptional<Date>;
}

/** A browser in which somebody is signed in. */
export interface SignInModel extends Model<InferAttributes<SignInModel>, InferCreationAttributes<SignInModel>> {
  id: CreationOptional<number>;
  accountId: number;
  tokenHash: string;
  address: string;
  browser: string;
  seenAt: Date;
  until: Date;
  createdAt: CreationOptional<Date>;
}

/** What somebody asked the server to change; the same again within a while is counted. */
export interface DoingModel extends Model<InferAttributes<DoingModel>, InferCreationAttributes<DoingModel>> {
  id: CreationOptional<number>;
  accountId: number | null;
  name: string;
  method: string;
  path: string;
  times: number;
  firstAt: Date;
  lastAt: Date;
}

/** What lists show of a session: made of it and its newest readings, made again at any time. */
export interface SessionCardModel extends Model<
  InferAttributes<SessionCardModel>,
  InferCreationAttributes<SessionCardModel>
> {
  sessionId: string;
  sessionAt: Date;
  readingId: number;
  madeBy: string;
  entry: object;
  words: string;
  day: string;
  camera: string;
  titleKey: string;
  begunAt: Date;
}

export interface Models {
  Account: ModelStatic<AccountModel>;
  Passkey: ModelStatic<PasskeyModel>;
  SignIn: ModelStatic<SignInModel>;
  Doing: ModelStatic<DoingModel>;
  Setting: ModelStatic<SettingModel>;
  Report: ModelStatic<KeptModel>;
  ReportVersion: ModelStatic<ReportVersionModel>;
  ReportLink: ModelStatic<ReportLinkModel>;
  ShelfKit: ModelStatic<KeptModel>;
  ShelfRig: ModelStatic<KeptModel>;
  OtherBench: ModelStatic<KeptModel>;
  ShelfPhoto: ModelStatic<ShelfPhotoModel>;
  Pairing: ModelStatic<PairingModel>;
  Rig: ModelStatic<RigModel>;
  Session: ModelStatic<SessionModel>;
  SessionCard: ModelStatic<SessionCardModel>;
  Kit: ModelStatic<KitModel>;
  Filter: ModelStatic<FilterModel>;
  Scene: ModelStatic<SceneModel>;
  Take: ModelStatic<TakeModel>;
  Patch: ModelStatic<PatchModel>;
  File: ModelStatic<FileModel>;
  SessionFile: ModelStatic<SessionFileModel>;
  Revision: ModelStatic<RevisionModel>;
  Inbox: ModelStatic<InboxModel>;
  Job: ModelStatic<JobModel>;
  Readings: ModelStatic<ReadingsModel>;
}

/** Defines all models on a connection. */
export function defineModels(sequelize: Sequelize): Models {
  const { STRING, INTEGER, JSON: JSON_TYPE, BIGINT, DATE, BOOLEAN, TEXT, CHAR } = DataTypes;
  const key = { type: INTEGER, autoIncrement: true, primaryKey: true };
  const entity = {
    id: key,
    sessionId: { type: CHAR(36), allowNull: false },
    key: { type: STRING(190), allowNull: false },
    position: { type: INTEGER, allowNull: false },
    data: { type: JSON_TYPE, allowNull: false },
  };
  const kept = {
    id: { type: CHAR(36), primaryKey: true },
    name: STRING(190),
    data: JSON_TYPE,
    items: INTEGER,
    revision: INTEGER,
    deletedAt: DATE(3),
    createdAt: DATE(3),
    updatedAt: DATE(3),
  };
  const created = { timestamps: true, createdAt: true, updatedAt: true } as const;
  return {
    Setting: sequelize.define<SettingModel>(
      'setting',
      { name: { type: STRING(60), primaryKey: true }, data: JSON_TYPE },
      { tableName: 'settings', ...created },
    ),
    Report: sequelize.define<KeptModel>('report', kept, { tableName: 'reports', ...created }),
    ReportVersion: sequelize.define<ReportVersionModel>(
      'reportVersion',
      { id: key, reportId: CHAR(36), number: INTEGER, hash: CHAR(64), document: JSON_TYPE, createdAt: DATE(3) },
      { tableName: 'report_versions', ...created },
    ),
    ReportLink: sequelize.define<ReportLinkModel>(
      'reportLink',
      { id: key, reportId: CHAR(36), token: CHAR(32), until: DATE(3) },
      { tableName: 'report_links', ...created },
    ),
    ShelfKit: sequelize.define<KeptModel>('shelfKit', kept, { tableName: 'shelf_kits', ...created }),
    ShelfRig: sequelize.define<KeptModel>('shelfRig', kept, { tableName: 'shelf_rigs', ...created }),
    OtherBench: sequelize.define<KeptModel>('otherBench', kept, { tableName: 'other_benches', ...created }),
    ShelfPhoto: sequelize.define<ShelfPhotoModel>(
      'shelfPhoto',
      { id: key, kitId: CHAR(36), sha256: CHAR(64) },
      { tableName: 'shelf_photos', ...created },
    ),
    Account: sequelize.define<AccountModel>(
      'account',
      {
        id: key,
        name: STRING(60),
        nameKey: STRING(60),
        role: STRING(10),
        passwordHash: STRING(200),
        createdAt: DATE(3),
      },
      { tableName: 'accounts', ...created },
    ),
    Passkey: sequelize.define<PasskeyModel>(
      'passkey',
      {
        id: key,
        accountId: INTEGER,
        credentialId: STRING(700),
        publicKey: DataTypes.BLOB,
        counter: BIGINT,
        transports: STRING(120),
        name: STRING(60),
        usedAt: DATE(3),
        createdAt: DATE(3),
      },
      { tableName: 'passkeys', ...created },
    ),
    SignIn: sequelize.define<SignInModel>(
      'signIn',
      {
        id: key,
        accountId: INTEGER,
        tokenHash: CHAR(64),
        address: STRING(60),
        browser: STRING(120),
        seenAt: DATE(3),
        until: DATE(3),
        createdAt: DATE(3),
      },
      { tableName: 'sign_ins', ...created },
    ),
    Doing: sequelize.define<DoingModel>(
      'doing',
      {
        id: key,
        accountId: INTEGER,
        name: STRING(60),
        method: STRING(8),
        path: STRING(200),
        times: INTEGER,
        firstAt: DATE(3),
        lastAt: DATE(3),
      },
      { tableName: 'doings', timestamps: false },
    ),
    Pairing: sequelize.define<PairingModel>(
      'pairing',
      {
        id: key,
        sessionId: CHAR(36),
        name: STRING(60),
        codeHash: CHAR(64),
        codeUntil: DATE(3),
        secretHash: CHAR(64),
        revokedAt: DATE(3),
        seenAt: DATE(3),
        createdAt: DATE(3),
      },
      { tableName: 'pairings', ...created },
    ),
    Rig: sequelize.define<RigModel>(
      'rig',
      { id: key, name: STRING(190), data: JSON_TYPE },
      { tableName: 'rigs', ...created },
    ),
    Session: sequelize.define<SessionModel>(
      'session',
      {
        id: { type: CHAR(36), primaryKey: true },
        title: STRING(500),
        rigId: INTEGER,
        data: JSON_TYPE,
        deletedAt: DATE(3),
        createdAt: DATE(3),
        updatedAt: DATE(3),
      },
      { tableName: 'sessions', ...created },
    ),
    SessionCard: sequelize.define<SessionCardModel>(
      'sessionCard',
      {
        sessionId: { type: CHAR(36), primaryKey: true },
        sessionAt: DATE(3),
        readingId: INTEGER,
        madeBy: CHAR(16),
        entry: JSON_TYPE,
        words: TEXT,
        day: CHAR(10),
        camera: STRING(190),
        titleKey: STRING(190),
        begunAt: DATE(3),
      },
      { tableName: 'session_cards', ...created },
    ),
    Kit: sequelize.define<KitModel>('kit', entity, { tableName: 'kits', ...created }),
    Filter: sequelize.define<FilterModel>(
      'filter',
      { ...entity, kitId: INTEGER },
      { tableName: 'filters', ...created },
    ),
    Scene: sequelize.define<SceneModel>('scene', entity, { tableName: 'scenes', ...created }),
    Take: sequelize.define<TakeModel>(
      'take',
      { ...entity, sceneKey: STRING(190), filterKey: STRING(190) },
      { tableName: 'takes', ...created },
    ),
    Patch: sequelize.define<PatchModel>(
      'patch',
      { ...entity, sceneKey: STRING(190) },
      { tableName: 'patches', ...created },
    ),
    File: sequelize.define<FileModel>(
      'file',
      { sha256: { type: CHAR(64), primaryKey: true }, bytes: BIGINT, facts: JSON_TYPE },
      { tableName: 'files', ...created },
    ),
    SessionFile: sequelize.define<SessionFileModel>(
      'sessionFile',
      { id: key, sessionId: CHAR(36), path: STRING(500), sha256: CHAR(64) },
      { tableName: 'session_files', ...created },
    ),
    Revision: sequelize.define<RevisionModel>(
      'revision',
      {
        id: key,
        sessionId: CHAR(36),
        number: INTEGER,
        document: DataTypes.BLOB('medium'),
        changes: JSON_TYPE,
        author: STRING(60),
        createdAt: DATE(3),
      },
      { tableName: 'session_revisions', ...created },
    ),
    Inbox: sequelize.define<InboxModel>(
      'inbox',
      { id: key, path: STRING(500), sha256: CHAR(64), source: STRING(20), createdAt: DATE(3) },
      { tableName: 'inbox', ...created },
    ),
    Job: sequelize.define<JobModel>(
      'job',
      {
        id: key,
        sessionId: CHAR(36),
        kind: STRING(40),
        state: STRING(20),
        attempts: INTEGER,
        worker: STRING(190),
        heartbeatAt: DATE(3),
        cancelRequested: BOOLEAN,
        progress: JSON_TYPE,
        error: TEXT,
        request: CHAR(36),
        createdAt: DATE(3),
        updatedAt: DATE(3),
      },
      { tableName: 'jobs', ...created },
    ),
    Readings: sequelize.define<ReadingsModel>(
      'readings',
      { id: key, sessionId: CHAR(36), jobId: INTEGER, inputHash: CHAR(64), document: JSON_TYPE, createdAt: DATE(3) },
      { tableName: 'readings', ...created },
    ),
  };
}
