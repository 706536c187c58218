/**
 * Databases of every state that a released program left are opened by the newest. What stood in them is written here as the rows of then,
 * by hand and never by today's code; each state has what was new in it.
 */
import { createHash } from 'node:crypto';
import { allBenches, closeStore, editSession, listInbox, loadSession, migrationsWaiting, readKit, readSetting, reportByLink, sessionOfSecret } from '.'; // prettier-ignore
import { store } from './database';
import { migrate, migrationsDone } from './migrate';
import { freshDatabase } from './testing';

const DATABASE = 'glade_states';
const SESSION = '11111111-1111-4111-8111-111111111111';
const REPORT = '22222222-2222-4222-8222-222222222222';
const SECRET = 'a-secret-of-a-phone-that-was-paired';
const LINK = 'ab'.repeat(16);
const NOW = "'2026-05-14 09:00:00.000'";
const TIMES = `${NOW}, ${NOW}`;
const hash = (text: string) => createHash('sha256').update(text).digest('hex');

const FRAME = { format: 'aurora-glade-session', version: 1, title: 'Of then', rig: null, kits: null, scenes: null, takes: null, patches: null, unknownKey: 'kept' }; // prettier-ignore

const ROWS: Record<string, string[]> = {
  '0001-first-tables': [
    `INSERT INTO rigs VALUES (1, 'Bench camera', '{"camera":"Bench camera"}', ${TIMES})`,
    `INSERT INTO sessions (id, title, rig_id, data, deleted_at, created_at, updated_at)
      VALUES ('${SESSION}', 'Of then', 1, '${JSON.stringify({ frame: FRAME, hasRig: true })}', NULL, ${TIMES})`,
    `INSERT INTO kits VALUES (1, '${SESSION}', 'k', 0, '{"order":["id","filters"],"data":{"id":"k"}}', ${TIMES})`,
    `INSERT INTO filters (id, session_id, \`key\`, position, kit_id, data, created_at, updated_at)
      VALUES (1, '${SESSION}', 'nd8', 0, 1, '{"id":"nd8","kind":"nd","nominal":{"ndFactor":8}}', ${TIMES})`,
    `INSERT INTO scenes VALUES (1, '${SESSION}', 'chart', 0, '{"id":"chart","kind":"chart"}', ${TIMES})`,
    `INSERT INTO takes (id, session_id, \`key\`, position, scene_key, filter_key, data, created_at, updated_at)
      VALUES (1, '${SESSION}', 'bare', 0, 'chart', NULL, '{"id":"bare","filter":null,"scene":"chart","files":["a.png"]}', ${TIMES})`,
    `INSERT INTO files VALUES ('${hash('a')}', 1, '{"readable":false,"reason":"x"}', ${TIMES})`,
    `INSERT INTO session_files VALUES (1, '${SESSION}', 'a.png', '${hash('a')}', ${TIMES})`,
  ],
  '0002-inbox': [
    `INSERT INTO inbox (path, sha256, source, created_at, updated_at) VALUES ('b.png', '${hash('a')}', 'drop', ${TIMES})`,
  ],
  '0003-shelf': [
    `INSERT INTO shelf_kits (id, name, data, items, revision, deleted_at, created_at, updated_at)
      VALUES ('${REPORT}', 'Foundry Set', '{"id":"k","name":"Foundry Set","filters":[]}', 0, 1, NULL, ${TIMES})`,
    `INSERT INTO pairings (session_id, secret_hash, created_at, updated_at) VALUES ('${SESSION}', '${hash(SECRET)}', ${TIMES})`,
  ],
  '0004-judgement': [
    `INSERT INTO settings VALUES ('weights', '{"a":1}', ${TIMES})`,
    `INSERT INTO reports (id, name, data, items, revision, deleted_at, created_at, updated_at)
      VALUES ('${REPORT}', 'One', '{"title":"One","sessions":["${SESSION}"],"link":"${LINK}"}', 1, 1, NULL, ${TIMES})`,
  ],
  '0005-revisions': [],
  '0006-door': [],
  '0007-accounts': [`INSERT INTO accounts VALUES (1, 'Ada', 'ada', 'owner', 'x', ${TIMES})`],
  '0008-benches': [
    `INSERT INTO other_benches (id, name, data, items, revision, deleted_at, created_at, updated_at)
      VALUES ('${REPORT}', 'Mill Lane', '{"name":"Mill Lane","file":"a.csv","filters":[{"kit":"K","filter":"ND8","label":3,"figures":{"strength":{"value":3.1,"u95":0.02}}}]}', 1, 1, NULL, ${TIMES})`,
  ],
  '0009-cards': [],
  '0010-request': [],
};
const STATES = Object.keys(ROWS);

afterAll(closeStore);

test.each(STATES.map((state, i) => [state, i] as const))(
  'a database of %s is brought up, and all of it is there',
  async (state, index) => {
    await freshDatabase(DATABASE);
    const { sequelize } = store();
    await sequelize.query(`DROP DATABASE ${DATABASE}`);
    await sequelize.query(`CREATE DATABASE ${DATABASE}`);
    await closeStore();
    const has = (name: string) => index >= STATES.indexOf(name);
    for (const one of STATES.slice(0, index + 1)) {
      await migrate(one);
      for (const sql of ROWS[one]) await store().sequelize.query(sql);
    }
    await migrate();
    expect(await migrationsDone()).toEqual(STATES);
    expect(await migrationsWaiting()).toEqual([]);

    const { document, files } = await loadSession(SESSION);
    expect(document).toEqual({
      ...FRAME,
      rig: { camera: 'Bench camera' },
      kits: [{ id: 'k', filters: [{ id: 'nd8', kind: 'nd', nominal: { ndFactor: 8 } }] }],
      scenes: [{ id: 'chart', kind: 'chart' }],
      takes: [{ id: 'bare', filter: null, scene: 'chart', files: ['a.png'] }],
      patches: [],
    });
    expect([...files]).toEqual([['a.png', hash('a')]]);
    expect(await editSession(SESSION, (old) => ({ ...old, title: 'Of now' }))).toBe(2);
    if (has('0002-inbox')) expect((await listInbox()).map((one) => one.path)).toEqual(['b.png']);
    if (has('0003-shelf')) {
      expect((await readKit(REPORT))?.item.name).toBe('Foundry Set');
      expect(await sessionOfSecret(SECRET)).toBe(SESSION);
    }
    if (has('0004-judgement')) {
      expect(await readSetting('weights')).toEqual({ a: 1 });
      // A link that stood before links had an end holds, for as long as a new one.
      if (!has('0006-door')) expect((await reportByLink(LINK))?.id).toBe(REPORT);
    }
    if (has('0008-benches')) expect((await allBenches()).map(({ item }) => item.name)).toEqual(['Mill Lane']);
  },
  120_000,
);
