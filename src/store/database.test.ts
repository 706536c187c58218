/** When the database goes while it is asked. */
import { DatabaseError } from 'sequelize';
import { closeStore, isAway, isFull } from '.';
import { store } from './database';
import { freshDatabase } from './testing';

beforeAll(() => freshDatabase('glade_away'), 600_000);
afterAll(closeStore);

const failureOf = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: unknown) => error,
  );

test('a connection that ends in the middle of a question is the database’s absence, and so is one that ended before', async () => {
  const { sequelize } = store();
  const transaction = await sequelize.transaction();
  const [[{ id }]] = (await sequelize.query('SELECT CONNECTION_ID() AS id', { transaction })) as [
    { id: number }[],
    unknown,
  ];
  const asked = failureOf(sequelize.query('SELECT SLEEP(60)', { transaction }));
  await sequelize.query(`KILL CONNECTION ${Number(id)}`);
  expect(isAway(await asked)).toBe(true);
  expect(isAway(await failureOf(sequelize.query('SELECT 1', { transaction })))).toBe(true);
  await failureOf(transaction.rollback());
  // The next one has a connection of its own.
  expect((await sequelize.query('SELECT 1 AS one'))[0]).toEqual([{ one: 1 }]);
});

test('a mistake in a question is none', async () => {
  expect(isAway(await failureOf(store().sequelize.query('SELECT FROM nothing')))).toBe(false);
  expect(isAway(new Error('ECONNREFUSED'))).toBe(false);
  expect(isAway(null)).toBe(false);
});

test.each([
  ['a table that is full', new DatabaseError(Object.assign(new Error("The table 'readings' is full"), { errno: 1114, sql: '' })), true], // prettier-ignore
  ['an engine without room', new DatabaseError(Object.assign(new Error('Got error 28 "No space left on device" from storage engine'), { errno: 1030, sql: '' })), true], // prettier-ignore
  ['a file without room', Object.assign(new Error('write'), { code: 'ENOSPC' }), true],
  ['another engine error', new DatabaseError(Object.assign(new Error('Got error 128 from storage engine'), { errno: 1030, sql: '' })), false], // prettier-ignore
  ['nothing', null, false],
])('a full disk is told from the rest: %s', (_, error, full) => expect(isFull(error)).toBe(full));
